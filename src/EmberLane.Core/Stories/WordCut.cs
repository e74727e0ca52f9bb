namespace EmberLane.Core.Stories;

/// <summary>Words of a story, from one of a card to one of the same or a later card, both included; counted from 0 in each card.</summary>
public readonly record struct WordsOfStory(Guid FirstCard, int FirstWord, Guid LastCard, int LastWord);

/// <summary>
/// The story as a text: what happens to the cards when words are taken out, copied or put in, and where a card is parted. New cards get
/// their ids from <paramref name="newId"/>; <paramref name="wordsOf"/> gives the words of a card; places between words that no card ends at
/// are laid on frames of <paramref name="rate"/>, so that no frame is shown twice.
/// </summary>
public sealed class WordCut(Func<Card, IReadOnlyList<CardWord>> wordsOf, FrameRate rate, Func<Guid> newId)
{
    /// <summary>Cards continue each other where no more than this (5 s) lies between them.</summary>
    public static readonly MediaTime Continuing = MediaTime.FromMilliseconds(5_000);

    /// <summary>
    /// Takes words out and closes up: cards lose their end or begin, one is parted where its middle goes, those between go, headings stay.
    /// Throws <see cref="EditRefusedException"/> where the words are not there.
    /// </summary>
    public StoryEdit TakeOut(Story story, WordsOfStory words)
    {
        var edits = new List<StoryEdit>();
        var (first, last) = Ends(story, words);
        for (var i = first; i <= last; i++)
        {
            if (story.Pieces[i] is Card card)
            {
                edits.AddRange(Without(card, i, edits, Chosen(card, words)));
            }
            else if (story.Pieces[i] is not SectionHead)
            {
                edits.Add(new TakeOut(story.Pieces[i].Id));
            }
        }
        return StoryTogether.Of(edits);
    }

    /// <summary>
    /// The same, and in their place a space that is as long as what goes, which <paramref name="cut"/> tells of a story.
    /// </summary>
    public StoryEdit LeaveSpace(Story story, WordsOfStory words, Func<Story, StoryCut> cut)
    {
        var taking = TakeOut(story, words);
        var (after, _) = taking.Apply(story);
        var (first, _) = Ends(story, words);
        var stays = after.IndexOf(words.FirstCard);
        // A card that loses its begin comes behind the space; one that keeps it, before.
        var at = stays < 0 ? first : stays + (Chosen((Card)story.Pieces[first], words).First == 0 ? 0 : 1);
        var lasting = cut(story).RunningTime(rate) - cut(after).RunningTime(rate);
        return lasting <= MediaTime.Zero
            ? taking
            : new StoryTogether([
                .. taking is StoryTogether many ? many.Edits : [taking],
                new LayPiece(new Space(newId(), lasting, ""), at),
            ]);
    }

    /// <summary>What these words would be laid as elsewhere: a card for each that they touch, and what lies between them.</summary>
    public IReadOnlyList<Piece> Copy(Story story, WordsOfStory words)
    {
        var (first, last) = Ends(story, words);
        return
        [
            .. story
                .Pieces.Skip(first)
                .Take(last - first + 1)
                .Where(p => p is not SectionHead)
                .Select(p => p is Card card ? Only(card, Chosen(card, words)) : p with { Id = newId() }),
        ];
    }

    /// <summary>
    /// Lays pieces before a word of a card, which is parted there; before its first word they come before it, and behind its last word
    /// behind it.
    /// </summary>
    public StoryEdit PutIn(Story story, Guid card, int beforeWord, IReadOnlyList<Piece> pieces)
    {
        var at = story.IndexOf(card);
        var count = at >= 0 && story.Pieces[at] is Card own ? wordsOf(own).Count : throw Gone();
        var edits = new List<StoryEdit>();
        if (beforeWord > 0 && beforeWord < count)
        {
            edits.AddRange(((StoryTogether)Part(story, card, beforeWord)).Edits);
        }
        var place = at + (beforeWord <= 0 ? 0 : 1);
        edits.AddRange(pieces.Select((p, i) => LayPiece.Of(p, place + i)));
        return StoryTogether.Of(edits);
    }

    /// <summary>
    /// Makes two cards of one before a word: between that and the word before it, on a frame, so that nothing is lost or heard twice.
    /// Throws <see cref="EditRefusedException"/> before the first word.
    /// </summary>
    public StoryEdit Part(Story story, Guid id, int beforeWord)
    {
        var at = story.IndexOf(id);
        var card = at >= 0 && story.Pieces[at] is Card own ? own : throw Gone();
        var words = wordsOf(card);
        if (beforeWord <= 0 || beforeWord >= words.Count)
        {
            throw new EditRefusedException(
                "A card is parted between two of its words: go to the word that the second one shall begin with."
            );
        }
        SittingTime before = words[beforeWord - 1].Range.Out,
            behind = words[beforeWord].Range.In;
        var middle = before + new MediaTime((behind - before).Units / 2);
        var cut = new SittingTime(rate.TimeOf(rate.NearestFrame(middle.FromZero)));
        return cut <= card.Range.In || cut >= card.Range.Out
            ? throw new EditRefusedException("There is less than a frame between these words.")
            : new StoryTogether([
                new StretchCard(id, new SittingRange(card.Range.In, cut), null),
                new LayCard(Rest(card, new SittingRange(cut, card.Range.Out)), at + 1),
                .. Handed(card),
            ]);
    }

    /// <summary>
    /// Makes one card of one and the next, which continues it; what lies between them comes back. Throws
    /// <see cref="EditRefusedException"/> where it does not.
    /// </summary>
    public static StoryEdit Join(Story story, Guid id)
    {
        var at = story.IndexOf(id);
        if (at < 0 || story.Pieces[at] is not Card card)
        {
            throw Gone();
        }
        if (at + 1 >= story.Pieces.Count || story.Pieces[at + 1] is not Card next)
        {
            throw new EditRefusedException("There is no card of a bite behind this one to join it with.");
        }
        if (next.SittingId != card.SittingId || next.Range.In < card.Range.In || next.Range.In - card.Range.Out > Continuing)
        {
            throw new EditRefusedException(
                "The next card does not continue this one: it lies elsewhere in the footage. Stretch one of them, or move the cards."
            );
        }
        var end = next.Range.Out > card.Range.Out ? next.Range.Out : card.Range.Out;
        var lines = string.Join('\n', new[] { card.SpaceAfter, next.SpaceBefore, next.SpaceAfter }.Where(s => s.Length > 0));
        return new StoryTogether([
            new StretchCard(id, new SittingRange(card.Range.In, end)),
            .. lines == card.SpaceAfter ? [] : (StoryEdit[])[new FillSpace(id, card.SpaceBefore, lines)],
            new TakeOut(next.Id),
        ]);
    }

    private static EditRefusedException Gone() => new("That card is no longer in the story.");

    private static (int First, int Last) Ends(Story story, WordsOfStory words)
    {
        int first = story.IndexOf(words.FirstCard),
            last = story.IndexOf(words.LastCard);
        return first < 0 || last < 0 || story.Pieces[first] is not Card || story.Pieces[last] is not Card ? throw Gone()
            : last < first || (first == last && words.LastWord < words.FirstWord)
                ? throw new EditRefusedException("The words end before they begin.")
            : (first, last);
    }

    // The words of a card that are meant, as far as it has them.
    private (int First, int Last, IReadOnlyList<CardWord> Words) Chosen(Card card, WordsOfStory words)
    {
        var own = wordsOf(card);
        var last = own.Count - 1;
        return (
            Math.Max(0, card.Id == words.FirstCard ? words.FirstWord : 0),
            Math.Min(last, card.Id == words.LastCard ? words.LastWord : last),
            own
        );
    }

    private IEnumerable<StoryEdit> Without(
        Card card,
        int at,
        IReadOnlyList<StoryEdit> before,
        (int First, int Last, IReadOnlyList<CardWord> Words) chosen
    )
    {
        var (first, last, words) = chosen;
        if (last < first && words.Count > 0)
        {
            yield break;
        }
        bool keepsBegin = first > 0,
            keepsEnd = last + 1 < words.Count;
        if (!keepsBegin && !keepsEnd)
        {
            yield return new TakeOut(card.Id);
            yield break;
        }
        var begin = keepsBegin ? new SittingRange(card.Range.In, Later(card.Range.In, words[first - 1].Range.Out)) : default;
        var end = keepsEnd ? new SittingRange(Earlier(card.Range.Out, words[last + 1].Range.In), card.Range.Out) : default;
        yield return new StretchCard(card.Id, keepsBegin ? begin : end);
        if (!keepsBegin)
        {
            if (card.Over is not null)
            {
                yield return new LayOver(card.Id, card.Over?.From(end.In - card.Range.In));
            }
            yield break;
        }
        if (!keepsEnd)
        {
            yield break;
        }
        var gone = before.Count(e => e is TakeOut);
        yield return new LayCard(Rest(card, end), at - gone + 1);
        foreach (var edit in Handed(card))
        {
            yield return edit;
        }
    }

    // A card with only these words.
    private Card Only(Card card, (int First, int Last, IReadOnlyList<CardWord> Words) chosen)
    {
        var (first, last, words) = chosen;
        var from = first > 0 && first < words.Count ? Later(card.Range.In, words[first].Range.In) : card.Range.In;
        var to = last + 1 < words.Count && last >= 0 ? Earlier(card.Range.Out, words[last].Range.Out) : card.Range.Out;
        var range = from < to ? new SittingRange(from, to) : card.Range;
        return card with
        {
            Id = newId(),
            Range = range,
            Unmended = range == card.Range ? card.Unmended : null,
            Over = card.Over?.From(range.In - card.Range.In),
        };
    }

    // The second of two cards that were one: the lines behind it are its own, the other takes stay with the first.
    private Card Rest(Card card, SittingRange range) =>
        card with
        {
            Id = newId(),
            Range = range,
            Unmended = null,
            SpaceBefore = "",
            OtherTakes = "",
            Over = card.Over?.From(range.In - card.Range.In),
            ComesIn = null,
        };

    private static IEnumerable<StoryEdit> Handed(Card card) =>
        card.SpaceAfter.Length > 0 ? [new FillSpace(card.Id, card.SpaceBefore, "")] : [];

    private static SittingTime Later(SittingTime one, SittingTime other) => one > other ? one : other;

    private static SittingTime Earlier(SittingTime one, SittingTime other) => one < other ? one : other;
}
