using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Finding;
using EmberLane.Core.Import;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>A line of a paper edit that came in: what it says, the bite that it is, or why it is none.</summary>
public sealed record PaperOutcome(int Line, string Says, Bite? Bite, string? Sitting, string Why);

/// <summary>Makes bites of paper edits: of ranges, and of words that were marked in a document.</summary>
public sealed class PaperEdits(Footage footage, Store.Transcripts transcripts)
{
    /// <summary>What becomes of each line of a list of ranges, in its order. Nothing is kept.</summary>
    public IReadOnlyList<PaperOutcome> OfRanges(long productionId, IReadOnlyList<PaperRange> ranges, string who)
    {
        var sittings = footage.Sittings(productionId).ToDictionary(s => s.Id);
        List<NamedTape> tapes =
        [
            .. footage
                .Sources(productionId)
                .Where(s => s.SittingId is { } id && sittings.ContainsKey(id))
                .Select(s => new NamedTape(
                    s.SittingId!.Value,
                    sittings[s.SittingId.Value].Title,
                    s.Labels.ReelOf(s.Facts),
                    s.Name,
                    s.Facts,
                    s.Place
                )),
        ];
        var texts = new Dictionary<long, Transcript>();
        return
        [
            .. ranges.Select(line =>
            {
                var says = string.Join("  ", new[] { line.Where, line.In, line.Out, line.Note }.Where(p => p.Length > 0));
                try
                {
                    var (sitting, range) = PaperPlace.Of(line, tapes);
                    return Outcome(line.Line, says, sittings[sitting], texts, text => MarkPlace.In(text, range), range, line, who);
                }
                catch (EditRefusedException refused)
                {
                    return new PaperOutcome(line.Line, says, null, null, refused.Message);
                }
            }),
        ];
    }

    /// <summary>
    /// What becomes of words that were marked in a transcript which went out from here: they are looked for in the sitting of that title,
    /// nearest to the time that stands before them; where none has the title, in all.
    /// </summary>
    public IReadOnlyList<PaperOutcome> OfMarked(long productionId, string title, IReadOnlyList<MarkedWords> marked, string who)
    {
        var sittings = footage.Sittings(productionId).Where(s => s.TranscriptId is not null).ToList();
        var named = sittings.Where(s => s.Title.Equals(title.Trim(), StringComparison.OrdinalIgnoreCase)).ToList();
        var texts = new Dictionary<long, Transcript>();
        var said = new Dictionary<long, SaidWords>();
        return
        [
            .. marked.Select(words =>
            {
                var keys = FoldedWords.Of(words.Words);
                var found = (named.Count > 0 ? named : sittings)
                    .Select(s => (Sitting: s, Place: SaidOf(s).Nearest(keys, words.At)))
                    .FirstOrDefault(f => f.Place is not null);
                return found.Place is { } place
                    ? Outcome(
                        words.Line,
                        words.Words,
                        found.Sitting,
                        texts,
                        _ => place,
                        null,
                        new PaperRange(words.Line, "", "", "", "", ""),
                        who
                    )
                    : new PaperOutcome(
                        words.Line,
                        words.Words,
                        null,
                        null,
                        named.Count > 0
                            ? $"These words are not said in “{named[0].Title}” as it is read now."
                            : "These words are said nowhere."
                    );
            }),
        ];

        SaidWords SaidOf(Sitting sitting) =>
            said.TryGetValue(sitting.Id, out var known) ? known : said[sitting.Id] = new SaidWords(TextOf(sitting, texts));
    }

    private Transcript TextOf(Sitting sitting, Dictionary<long, Transcript> texts) =>
        texts.TryGetValue(sitting.Id, out var text) ? text : texts[sitting.Id] = transcripts.Get(sitting.TranscriptId!.Value);

    private PaperOutcome Outcome(
        int line,
        string says,
        Sitting sitting,
        Dictionary<long, Transcript> texts,
        Func<Transcript, (TextPlace First, TextPlace Last)?> placeOf,
        SittingRange? range,
        PaperRange written,
        string who
    )
    {
        if (sitting.TranscriptId is not { } textId)
        {
            return new PaperOutcome(line, says, null, sitting.Title, $"“{sitting.Title}” is not transcribed yet.");
        }
        var text = TextOf(sitting, texts);
        if (placeOf(text) is not var (first, last))
        {
            return new PaperOutcome(line, says, null, sitting.Title, "Nothing is said there.");
        }
        var bite = Bite.Of(
            sitting.Id,
            textId,
            text.At(first).Number,
            text.At(last).Number,
            range ?? text.RangeOf(first, last),
            BiteThemes.Written(BiteThemes.Of(written.Theme).Where(t => t.Length <= BiteThemes.Longest).Take(BiteThemes.Most)),
            written.Note.Length > BiteEdit.LongestNote ? written.Note[..BiteEdit.LongestNote] : written.Note,
            who
        );
        return new PaperOutcome(line, says, bite, sitting.Title, BiteWords.Excerpt(text.Said(first, last)));
    }
}
