using System.Globalization;
using EmberLane.Core.Marks;
using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Import;

/// <summary>
/// A delivered text as a record of its sitting, ready to be kept: its words, the names of its voices, how many of a hundred words were
/// heard (null when there was nothing to compare with), and what does not fit.
/// </summary>
public sealed record NewText(
    IReadOnlyList<RecordWord> Words,
    IReadOnlyDictionary<int, string> Names,
    int? HeardPercent,
    IReadOnlyList<Misfit> Misfits
)
{
    /// <summary>A word without a time of its own and without a next one is taken to last at most this long.</summary>
    private static readonly MediaTime LongestWord = MediaTime.FromMilliseconds(600);

    /// <summary>In a caption a word is taken to last at most this long, however long the caption is shown.</summary>
    private static readonly MediaTime LongestInCaption = MediaTime.FromMilliseconds(5_000);

    private static readonly IReadOnlyList<Misfit> NoMisfits = [];

    private const string More = " …";

    /// <summary>
    /// Flags at the places that do not fit, so that they are found again while the text is read: where words were heard that it does not
    /// have, and where it has words that were not heard. <paramref name="kept"/> is the text as it was kept, without changes. Null when all
    /// fits.
    /// </summary>
    public TranscriptEdit? Flags(Transcript kept, Signed by)
    {
        var flags = new SortedDictionary<WordNumber, string>();
        foreach (var misfit in Words.Count == 0 ? [] : Misfits)
        {
            var word = misfit.Typed
                ? Words[misfit.First].Number
                : Words.FirstOrDefault(w => w.Range.In >= misfit.Range.In)?.Number ?? Words[^1].Number;
            var note = string.Create(
                CultureInfo.InvariantCulture,
                $"{misfit.Last - misfit.First + 1} words "
                    + $"{(misfit.Typed ? "of this text were not heard here" : "were heard here that this text does not have")}: "
                    + $"{misfit.Said}"
            );
            flags[word] = note.Length > Mark.LongestNote ? note[..(Mark.LongestNote - More.Length)] + More : note;
        }
        return flags.Count == 0
            ? null
            : new Together([.. flags.Select((f, i) => new PutMark(Flag(kept.PlaceOf(f.Key)!.Value, f.Value, i)))]);

        Mark Flag(TextPlace place, string note, int later) => Marking.Over(kept, MarkKind.LookAgain, place, place, by, note, later);
    }

    private readonly record struct Placed(
        string Text,
        SittingRange Range,
        PerMille? Sure,
        string? Who,
        int Heard,
        int? Voice = null,
        bool Unsaid = false
    );

    /// <summary>
    /// Lays a text onto a sitting. With <paramref name="heard"/>, the sitting's text as it is read now, every word gets its time from what
    /// was heard; words JSON keeps its own times, and so does a text with times when nothing was heard yet. <paramref name="length"/> is
    /// the sitting's, <paramref name="people"/> are the names that the production knows (<see cref="SpeakerName"/>),
    /// <paramref name="said"/> is where somebody speaks by the sound, with the voices of what was heard. Throws
    /// <see cref="FormatException"/> with the line or the reason when it can not be laid, or is the text of something else.
    /// </summary>
    public static NewText Of(
        DeliveredText text,
        Transcript? heard,
        SittingTime length,
        IReadOnlyCollection<string> people,
        IReadOnlyList<SaidStretch>? said = null
    )
    {
        // As they are read: what was taken out is not said, and joined words are one.
        var units = heard?.Units() ?? [];
        List<RecordWord> read =
        [
            .. units.Select(u => u[0] with { Text = heard!.Said(u), Range = new SittingRange(u[0].Range.In, u[^1].Range.Out) }),
        ];
        var (words, percent, misfits) =
            text.Timed.Count > 0 ? Timed(text.Timed, read, length)
            : read.Count > 0 ? Laid(text, read, said ?? [])
            : (ByLines(text.Lines, length), null, NoMisfits);
        var known = words.Select(w => w.Who).OfType<string>().Distinct().ToDictionary(n => n, n => SpeakerName.Of(n, people));
        words = WithoutHeadings([.. words.Select(w => w.Who is null ? w : w with { Who = known[w.Who] })], people);
        var names = words.Select(w => w.Who).OfType<string>().Distinct().ToList();
        var voices = new Dictionary<int, string>();
        var record = words
            .Select((w, i) => new RecordWord(new WordNumber(i), Core.TypedText.OneLine(w.Text), w.Range, w.Sure, Voice(w)))
            .ToList();
        return new NewText(record, voices, percent, misfits);

        // A text that names nobody leaves the voices as they were found.
        int Voice(Placed word)
        {
            if (names.Count > 0)
            {
                var voice = word.Who is null ? names.Count : names.IndexOf(word.Who);
                if (word.Who is not null)
                {
                    voices[voice] = word.Who;
                }
                return voice;
            }
            if (heard is null || (word.Heard < 0 && word.Voice is null))
            {
                return 0;
            }
            // What was not heard is said by who speaks there.
            var own = word.Voice ?? heard.VoiceOf(units[word.Heard][0]);
            if (heard.Layers.VoiceNames.TryGetValue(own, out var name))
            {
                voices[own] = name;
            }
            return own;
        }
    }

    // A “name” that is never heard, and for whose words there is no room anywhere, is a heading (“Place: the slipway”), and what stands
    // before the first name is one: nobody's voice. Its words go with those of whoever speaks next. A person of the production is none.
    private static List<Placed> WithoutHeadings(List<Placed> words, IReadOnlyCollection<string> people)
    {
        var headings = words
            .Where(w => w.Who is not null && !people.Contains(w.Who))
            .GroupBy(w => w.Who)
            .Where(g => g.All(w => w.Unsaid))
            .Select(g => g.Key)
            .ToHashSet();
        var named = words.Any(w => w.Who is not null && !headings.Contains(w.Who));
        bool IsHeading(Placed word) => word.Unsaid && (word.Who is null ? named : headings.Contains(word.Who));
        string? next = words.LastOrDefault(w => !IsHeading(w)).Who;
        for (var i = words.Count - 1; i >= 0; i--)
        {
            if (IsHeading(words[i]))
            {
                words[i] = words[i] with { Who = next };
            }
            next = words[i].Who;
        }
        return words;
    }

    private static (List<Placed>, int?, IReadOnlyList<Misfit>) Laid(
        DeliveredText text,
        List<RecordWord> heard,
        IReadOnlyList<SaidStretch> said
    )
    {
        var laid = AlignedText.Lay(text.Words(), heard, said);
        Demand(laid.HeardPercent);
        var nearest = 0;
        return (
            [
                .. laid.Words.Select(w => new Placed(
                    w.Word.Text,
                    w.Range,
                    w.Sure,
                    w.Word.Who,
                    nearest = w.Heard >= 0 ? w.Heard : nearest,
                    w.Voice,
                    w.Heard < 0 && !w.HasRoom
                )),
            ],
            laid.HeardPercent,
            laid.Misfits
        );
    }

    private static (List<Placed>, int?, IReadOnlyList<Misfit>) Timed(
        IReadOnlyList<RecognisedWord> words,
        List<RecordWord> heard,
        SittingTime length
    )
    {
        if (words.Index().Where(w => w.Item.Range.In.FromZero > length.FromZero).Select(w => (int?)w.Index).FirstOrDefault() is { } behind)
        {
            throw new FormatException(
                $"Word {behind + 1} (“{words[behind].Text}”) is at {words[behind].Range.In}, behind the sitting's end at {length}. Is this "
                    + "the text of another sitting?"
            );
        }
        int[] beside = heard.Count > 0 ? WordAlignment.Of([.. words.Select(w => w.Text)], [.. heard.Select(w => w.Text)]) : [];
        int? percent = beside.Length == 0 ? null : 100 * beside.Count(b => b >= 0) / words.Count;
        Demand(percent ?? 100);
        var nearest = beside.Length == 0 ? -1 : 0;
        return (
            [
                .. words.Select(
                    (w, i) =>
                        new Placed(
                            w.Text,
                            new SittingRange(new SittingTime(w.Range.In.FromZero), new SittingTime(w.Range.Out.FromZero)),
                            w.Confidence,
                            w.Voice,
                            nearest = beside.Length > 0 && beside[i] >= 0 ? beside[i] : nearest
                        )
                ),
            ],
            percent,
            NoMisfits
        );
    }

    private static void Demand(int percent)
    {
        if (percent < AlignedText.FitsFrom)
        {
            throw new FormatException(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"Only {percent} of 100 words of this text are heard in this sitting. It seems to be the text of something else; "
                        + $"nothing was changed."
                )
            );
        }
    }

    // A line's words share its time by their letters; a line without an end lasts until the next one's start, at most as long as its words
    // take.
    private static List<Placed> ByLines(IReadOnlyList<TypedLine> lines, SittingTime length)
    {
        if (lines[0].In is null)
        {
            throw new FormatException(
                "This text has no times, so its words can only be placed by the sound. Transcribe the sitting first, then bring the text "
                    + "again."
            );
        }
        var placed = new List<Placed>();
        MediaTime last = MediaTime.Zero;
        for (var first = 0; first < lines.Count;)
        {
            var end = first + 1;
            while (end < lines.Count && lines[end].In is null)
            {
                end++;
            }
            var line = lines[first];
            if (line.In!.Value > length.FromZero)
            {
                throw new FormatException(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"Line {line.Number}: its time {line.In} lies behind the sitting's end at {length}. When the text counts timecode, "
                            + $"transcribe the sitting first; then the words find their places by themselves."
                    )
                );
            }
            // Captions that lie over one another or go back follow one another here.
            var start = line.In.Value > last ? line.In.Value : last;
            var words = lines
                .Skip(first)
                .Take(end - first)
                .SelectMany(l => l.Said.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Select(w => (Text: w, l.Who)))
                .ToList();
            var next = line.Out is { } shown
                ? MediaTime.Min(shown, start + (LongestInCaption * words.Count))
                : (end < lines.Count && lines[end].In > start ? lines[end].In!.Value : length.FromZero);
            var most = start + new MediaTime(LongestWord.Units * words.Count);
            last =
                next < start ? start
                : next < most || line.Out is not null ? next
                : most;
            long letters = words.Sum(w => (long)w.Text.Length),
                before = 0;
            foreach (var (text, who) in words)
            {
                SittingTime At(long share) => new(start + new MediaTime(Exact.FloorDivide((Int128)(last - start).Units * share, letters)));
                placed.Add(new Placed(text, new SittingRange(At(before), At(before + text.Length)), null, who, -1));
                before += text.Length;
            }
            first = end;
        }
        return placed;
    }
}
