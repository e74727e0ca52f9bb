namespace EmberLane.Core.Captions;

/// <summary>
/// A caption with the words that it is of; where somebody fixed it, under which name and how, and whether what is said has changed since in
/// a way that its text does not hold.
/// </summary>
public sealed record LaidCaption(Caption Caption, IReadOnlyList<CaptionWord> Words, string? Name, FixedCaption? Fixed, bool IsStale)
{
    /// <summary>What is said in it.</summary>
    public string Said => string.Join(' ', Words.Select(w => w.Word.Text));

    /// <summary>Its text, line by line.</summary>
    public string Text => string.Join('\n', Caption.Lines.Select(l => l.Shown));
}

/// <summary>The captions of words with those that people fixed.</summary>
public static class CaptionTrack
{
    /// <summary>
    /// The captions of words in order, those of <paramref name="setup"/> in a language as they are fixed and the rest made around them. One
    /// whose words are no longer there is left out, and what is mended in the words comes through in a text that was typed. In a language
    /// that is not spoken, a caption without a name is not translated. Grows with the words.
    /// </summary>
    public static IReadOnlyList<LaidCaption> Lay(
        IReadOnlyList<CaptionWord> words,
        CaptionSetup setup,
        string language,
        CaptionRules rules,
        IReadOnlyList<MediaTime> cuts
    )
    {
        var found = new List<(SetCaption Set, string Name, FixedCaption Fixed, bool IsStale)>();
        var pieces = Pieces(words);
        foreach (var (name, caption) in setup.Of(language))
        {
            if (Range(caption, words, pieces) is not var (first, end))
            {
                continue;
            }
            var own = Slice(words, first, end);
            var now = string.Join(' ', own.Select(w => w.Word.Text));
            var merged =
                caption.Text is not { } typed ? null
                : language.Length > 0 ? typed
                : WordMerge.Of(caption.Words, typed, now);
            var text = merged ?? caption.Text;
            found.Add(
                (
                    new SetCaption(
                        first,
                        end,
                        text is null ? null : TypedLines.Of(text, TypedLines.Speakers(own), rules.Line),
                        caption.In is { } later ? MediaTime.Max(MediaTime.Zero, own[0].Word.Range.In.FromZero + later) : null,
                        caption.Out is { } after ? own[^1].Word.Range.Out.FromZero + after : null
                    ),
                    name,
                    caption,
                    caption.Text is not null && (language.Length > 0 ? now != caption.Words : merged is null)
                )
            );
        }
        var byFirst = Apart(found).ToDictionary(f => f.Set.First);
        var made = CaptionMaker.Make([.. words.Select(w => w.Word)], rules, cuts, [.. byFirst.Values.Select(f => f.Set)]);
        return
        [
            .. made.Select(c =>
                byFirst.TryGetValue(c.First, out var f)
                    ? new LaidCaption(c, Slice(words, f.Set.First, f.Set.End), f.Name, f.Fixed, f.IsStale)
                    : new LaidCaption(c, Slice(words, c.First, c.First + c.Words), null, null, false)
            ),
        ];
    }

    // Those that share no words with one before them.
    private static IEnumerable<(SetCaption Set, string Name, FixedCaption Fixed, bool IsStale)> Apart(
        IEnumerable<(SetCaption Set, string Name, FixedCaption Fixed, bool IsStale)> found
    )
    {
        var end = 0;
        foreach (var one in found.OrderBy(f => f.Set.First).ThenBy(f => f.Set.End))
        {
            if (one.Set.First >= end)
            {
                end = one.Set.End;
                yield return one;
            }
        }
    }

    private sealed record PieceWords(Guid Piece, long Sitting, int First, int End);

    private static ILookup<Guid, PieceWords> Pieces(IReadOnlyList<CaptionWord> words)
    {
        var pieces = new List<PieceWords>();
        foreach (var (i, word) in words.Index())
        {
            if (pieces.Count > 0 && pieces[^1].Piece == word.Piece)
            {
                pieces[^1] = pieces[^1] with { End = i + 1 };
            }
            else
            {
                pieces.Add(new PieceWords(word.Piece, word.Sitting, i, i + 1));
            }
        }
        // By the piece itself, and under none by all, for words that lie in another piece by now.
        return pieces
            .SelectMany(p => (KeyValuePair<Guid, PieceWords>[])[new(p.Piece, p), new(Guid.Empty, p)])
            .ToLookup(p => p.Key, p => p.Value);
    }

    // Its words: those of its first place, and of the next ones as far as they go on from there.
    private static (int First, int End)? Range(FixedCaption caption, IReadOnlyList<CaptionWord> words, ILookup<Guid, PieceWords> pieces)
    {
        (int First, int End)? range = null;
        foreach (var place in caption.Places)
        {
            var held = In(place, words, pieces[place.Piece]) ?? In(place, words, pieces[Guid.Empty].Where(p => p.Sitting == place.Sitting));
            if (range is null)
            {
                range = held;
            }
            else if (held is var (first, end) && first == range.Value.End)
            {
                range = (range.Value.First, end);
            }
        }
        return range;
    }

    private static (int First, int End)? In(CaptionPlace place, IReadOnlyList<CaptionWord> words, IEnumerable<PieceWords> pieces)
    {
        foreach (var piece in pieces)
        {
            var first = piece.First;
            while (first < piece.End && !place.Holds(words[first]))
            {
                first++;
            }
            var end = first;
            while (end < piece.End && place.Holds(words[end]))
            {
                end++;
            }
            if (end > first)
            {
                return (first, end);
            }
        }
        return null;
    }

    private static List<CaptionWord> Slice(IReadOnlyList<CaptionWord> words, int first, int end)
    {
        var own = new List<CaptionWord>(end - first);
        for (var i = first; i < end; i++)
        {
            own.Add(words[i]);
        }
        return own;
    }
}
