using EmberLane.Core.Mics;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>What was heard on the channels of sources, and what people decided about them.</summary>
public sealed class Mics(Database database)
{
    /// <summary>The channels of sources as known, in the order of the sources, each source's channels in their order.</summary>
    public IReadOnlyList<KnownChannel> Channels(IReadOnlyList<Source> sources) =>
        database.Read(c =>
            sources
                .SelectMany(s =>
                {
                    var sounds = c.Query(
                            "SELECT channel, loud, spread, copy_of FROM channel_sound WHERE source_id = $id",
                            r =>
                                (
                                    Channel: (int)r.GetInt64(0),
                                    Sound: new ChannelSound(r.GetInt64(1) / 10m, r.GetInt64(2) / 10m, (int?)r.Number(3))
                                ),
                            ("$id", s.Id)
                        )
                        .ToDictionary(r => r.Channel, r => r.Sound);
                    var choices = c.Query(
                            "SELECT channel, kind, person, heard FROM mic WHERE source_id = $id",
                            r => (Channel: (int)r.GetInt64(0), Choice: ReadChoice(r, 1)),
                            ("$id", s.Id)
                        )
                        .ToDictionary(r => r.Channel, r => r.Choice);
                    return Enumerable
                        .Range(0, s.Facts.Channels)
                        .Select(n => new KnownChannel(
                            s.Id,
                            n,
                            s.Facts.ChannelName(n),
                            s.Facts.Picture is not null,
                            s.Facts.Channels,
                            sounds.GetValueOrDefault(n),
                            choices.GetValueOrDefault(n, MicChoice.None)
                        ));
                })
                .ToList()
        );

    /// <summary>Notes what the channels of a source sound like.</summary>
    public void Heard(long sourceId, IReadOnlyList<ChannelSound> channels) =>
        database.Write(c =>
        {
            c.Execute("DELETE FROM channel_sound WHERE source_id = $id", ("$id", sourceId));
            for (var n = 0; n < channels.Count; n++)
            {
                c.Execute(
                    "INSERT INTO channel_sound VALUES ($id, $n, $loud, $spread, $copy)",
                    ("$id", sourceId),
                    ("$n", n),
                    ("$loud", (long)(channels[n].Loud * 10)),
                    ("$spread", (long)(channels[n].Spread * 10)),
                    ("$copy", channels[n].CopyOf)
                );
            }
        });

    /// <summary>Whether the channels of a source have been listened to.</summary>
    public bool IsHeard(long sourceId) =>
        database
            .Read(c => c.Query("SELECT 1 FROM channel_sound WHERE source_id = $id LIMIT 1", r => r.GetInt64(0), ("$id", sourceId)))
            .Count > 0;

    internal static MicChoice ChoiceOf(SqliteConnection c, long source, int channel) =>
        c.Query(
                "SELECT kind, person, heard FROM mic WHERE source_id = $s AND channel = $c",
                r => ReadChoice(r, 0),
                ("$s", source),
                ("$c", channel)
            )
            .SingleOrDefault()
        ?? MicChoice.None;

    internal static void SaveChoice(SqliteConnection c, long source, int channel, MicChoice choice)
    {
        c.Execute("DELETE FROM mic WHERE source_id = $s AND channel = $c", ("$s", source), ("$c", channel));
        if (choice != MicChoice.None)
        {
            c.Execute(
                "INSERT INTO mic VALUES ($s, $c, $kind, $person, $heard)",
                ("$s", source),
                ("$c", channel),
                ("$kind", choice.Kind?.ToString()),
                ("$person", choice.Person),
                (
                    "$heard",
                    choice.Heard is { } heard
                        ? heard
                            ? 1
                            : 0
                        : null
                )
            );
        }
    }

    private static MicChoice ReadChoice(SqliteDataReader r, int column) =>
        new(
            r.IsDBNull(column) ? null : Enum.Parse<MicKind>(r.GetString(column)),
            r.IsDBNull(column + 1) ? null : r.GetString(column + 1),
            r.Number(column + 2) is { } heard ? heard != 0 : null
        );
}
