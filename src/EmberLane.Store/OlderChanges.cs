using System.Text.Json;
using EmberLane.Core.Bites;
using EmberLane.Core.Stories;
using EmberLane.Core.Sync;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// Changes of a database from before each was written down in words: they are put into words once, as well as what stands today tells.
/// </summary>
internal static class OlderChanges
{
    private sealed record Wordless(long Id, string Aggregate, long AggregateId, string Body, string Inverse);

    public static void PutIntoWords(SqliteConnection c, Transcripts transcripts)
    {
        var texts = new Dictionary<long, Transcript>();
        foreach (
            var change in c.Query(
                "SELECT id, aggregate, aggregate_id, body, inverse FROM change WHERE said = '' ORDER BY aggregate, aggregate_id",
                r => new Wordless(r.GetInt64(0), r.GetString(1), r.GetInt64(2), r.GetString(3), r.GetString(4))
            )
        )
        {
            // One text at a time is held.
            if (change.Aggregate == About.TextWords && !texts.ContainsKey(change.AggregateId))
            {
                texts.Clear();
                texts[change.AggregateId] = transcripts.Get(c, change.AggregateId);
            }
            c.Execute("UPDATE change SET said = $said WHERE id = $id", ("$said", Words(c, change, texts)), ("$id", change.Id));
        }
    }

    private static string Words(SqliteConnection c, Wordless change, Dictionary<long, Transcript> texts) =>
        change.Aggregate switch
        {
            About.TextWords => EditWords.Of(Of<TranscriptEdit>(change.Body), texts[change.AggregateId]).Said,
            About.KeptBites => Of<BitesEdit>(change.Body) is var bites
                ? BiteWords.OfMany(bites, Of<BitesEdit>(change.Inverse), SaidBy(c, bites.Edits[0].Id))
                : "",
            About.StoryCards => StoryWords.Of(Of<StoryEdit>(change.Body), Story.Empty, card => SaidBy(c, card.BiteId)),
            About.Places => Of<PlaceSource>(change.Body) is var place
                ? $"{Footage.OneSource(c, place.Source)?.Name}: {place.To.Evidence}"
                : "",
            About.Choice => Of<ChosenText>(change.Body).Text is { } text ? $"read by {Texts.NameOf(c, text)}" : "read by no text",
            _ => "a change",
        };

    private static string SaidBy(SqliteConnection c, long bite) =>
        c.Query("SELECT said FROM bite_reading WHERE bite_id = $b", r => r.GetString(0), ("$b", bite)).SingleOrDefault() ?? "";

    private static T Of<T>(string json) => JsonSerializer.Deserialize<T>(json)!;
}
