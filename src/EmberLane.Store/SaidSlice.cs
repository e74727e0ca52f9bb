using System.Collections.Immutable;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// Reads some words of a text as it is read, without all the others: what people decided about its words is read once, the words where they
/// are asked for.
/// </summary>
internal sealed class SaidSlices
{
    private readonly SqliteConnection c;
    private readonly long transcript;
    private readonly Layers layers;
    private readonly ImmutableSortedDictionary<WordNumber, AddedWord> added;

    /// <summary>Of a text. Cost grows with what people decided about its words.</summary>
    public SaidSlices(SqliteConnection c, long transcript)
    {
        (this.c, this.transcript) = (c, transcript);
        layers = TranscriptRows.WordLayersOf(c, transcript);
        added = layers.Added;
    }

    /// <summary>A text’s voice as it is called.</summary>
    public string NameOf(int voice) => new Transcript([], layers).NameOf(voice);

    /// <summary>The word of the record at which a word stands: itself, or the one that people added it behind.</summary>
    public int AnchorOf(int number) => added.TryGetValue(new(number), out var word) ? Math.Max(0, word.After.Value) : number;

    /// <summary>The place of a word in the text: added ones stand behind one of the record, in the order of their times.</summary>
    public int PlaceOf(int number)
    {
        var before = added.Where(a => !a.Value.IsWithdrawn);
        return added.TryGetValue(new(number), out var own)
            ? own.After.Value
                + 1
                + before.Count(a =>
                    a.Value.After < own.After
                    || (a.Value.After == own.After && (a.Value.Range.In, a.Key.Value).CompareTo((own.Range.In, number)) < 0)
                )
            : number + before.Count(a => a.Value.After.Value < number);
    }

    /// <summary>
    /// The words from one of the record to another, both included, as a text of its own whose numbers count from its first word.
    /// </summary>
    public SaidSlice Of(int first, int last)
    {
        first = Math.Max(0, first);
        var record = c.Query(
            "SELECT number, text, time_in, time_out, voice FROM word WHERE transcript_id = $t AND number BETWEEN $first AND $last ORDER BY "
                + "number",
            r => new RecordWord(new(r.GetInt32(0) - first), r.GetString(1), Columns.Range(r, 2), null, r.GetInt32(4)),
            ("$t", transcript),
            ("$first", first),
            ("$last", last)
        );
        var numbers = record.Select(w => new WordNumber(w.Number.Value + first)).ToList();
        var beside = added.Where(a => a.Value.After.Value >= first - 1 && a.Value.After.Value <= last).ToList();
        numbers.AddRange(beside.Select(a => a.Key));
        return new SaidSlice(
            new Transcript(
                record,
                new Layers(Here(layers.Retyped), layers.VoiceNames)
                {
                    Added = beside
                        .Select(
                            (a, i) =>
                                KeyValuePair.Create(
                                    new WordNumber(record.Count + i),
                                    a.Value with
                                    {
                                        After = a.Value.After.Value < first ? WordNumber.BeforeFirst : new(a.Value.After.Value - first),
                                    }
                                )
                        )
                        .ToImmutableSortedDictionary(),
                    Given = Here(layers.Given),
                    Hidden = [.. Own(layers.Hidden)],
                    Joined = [.. Own(layers.Joined)],
                }
            ),
            numbers
        );

        ImmutableSortedDictionary<WordNumber, T> Here<T>(ImmutableSortedDictionary<WordNumber, T> of) =>
            of.IsEmpty
                ? of
                : numbers
                    .Select((n, i) => (Own: new WordNumber(i), Number: n))
                    .Where(n => of.ContainsKey(n.Number))
                    .ToImmutableSortedDictionary(n => n.Own, n => of[n.Number]);

        IEnumerable<WordNumber> Own(ImmutableSortedSet<WordNumber> of) =>
            of.IsEmpty
                ? []
                : numbers.Select((n, i) => (Own: new WordNumber(i), Number: n)).Where(n => of.Contains(n.Number)).Select(n => n.Own);
    }
}

/// <summary>Some words of a text, and the numbers that they have in the whole one.</summary>
internal sealed record SaidSlice(Transcript Text, IReadOnlyList<WordNumber> Numbers)
{
    /// <summary>The place in this text of a word by its number in the whole one; null when it is not here.</summary>
    public TextPlace? PlaceOf(WordNumber number)
    {
        for (var i = 0; i < Numbers.Count; i++)
        {
            if (Numbers[i] == number)
            {
                return Text.PlaceOf(new WordNumber(i));
            }
        }
        return null;
    }
}
