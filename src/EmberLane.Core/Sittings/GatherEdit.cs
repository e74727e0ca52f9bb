using System.Collections.Immutable;
using System.Globalization;
using EmberLane.Core.Edits;
using EmberLane.Core.Media;
using EmberLane.Core.Mics;
using EmberLane.Core.Sync;

namespace EmberLane.Core.Sittings;

/// <summary>
/// A sitting as grouping sees it: its title, the source whose sound is read (null: none), and whether it is gone. One that has texts can
/// not go.
/// </summary>
public sealed record GatheredSitting(long Id, string Title, long? Sound, bool Gone, bool HasTexts = false);

/// <summary>
/// A source as grouping sees it: its file's name, the sitting that it belongs to (null: loose) and how it lies there, what is written on
/// it, and what it holds.
/// </summary>
public sealed record GatheredSource(long Id, string Name, long? Sitting, Placement Placement, Labels Labels, bool HasPicture, int Channels);

/// <summary>The sittings, sources and mics of a production that a change is about, by their ids, and mics by source and channel.</summary>
public sealed record GatherState(
    ImmutableSortedDictionary<long, GatheredSitting> Sittings,
    ImmutableSortedDictionary<long, GatheredSource> Sources,
    ImmutableSortedDictionary<(long Source, int Channel), MicChoice> Mics
)
{
    /// <summary>The state of these sittings and files.</summary>
    public static GatherState Of(IEnumerable<GatheredSitting> sittings, IEnumerable<GatheredSource> sources) =>
        new(
            sittings.ToImmutableSortedDictionary(s => s.Id, s => s),
            sources.ToImmutableSortedDictionary(s => s.Id, s => s),
            ImmutableSortedDictionary<(long, int), MicChoice>.Empty
        );

    /// <summary>The sources of a sitting in the order of their ids.</summary>
    public List<GatheredSource> In(long sitting) => [.. Sources.Values.Where(s => s.Sitting == sitting)];
}

/// <summary>A sitting as it shall be.</summary>
public sealed record SittingRow(long Id, string Title, long? Sound, bool Gone);

/// <summary>Where a source shall belong and lie.</summary>
public sealed record PlaceRow(long Source, long? Sitting, Placement Placement);

/// <summary>What shall be written on a source.</summary>
public sealed record LabelRow(long Source, Labels Labels);

/// <summary>What shall be decided about a mic.</summary>
public sealed record MicRow(long Source, int Channel, MicChoice Choice);

/// <summary>
/// A change in Gather: what it is in words, and the values that it leaves. Taken with its inverse only what differs between the two is
/// meant, so that it can be taken back whatever others did to the rest: <see cref="Against"/>.
/// </summary>
public sealed record GatherEdit(
    string What,
    IReadOnlyList<SittingRow> Sittings,
    IReadOnlyList<PlaceRow> Places,
    IReadOnlyList<LabelRow> Labels,
    IReadOnlyList<MicRow> Mics
) : IEdit<GatherState, GatherEdit>
{
    /// <summary>A change of this name that changes nothing yet.</summary>
    public static GatherEdit Nothing(string what) => new(what, [], [], [], []);

    /// <summary>
    /// Throws <see cref="EditRefusedException"/> when it names something that is not there, or lets a sitting go that has texts by now, or
    /// a file lie in one that is gone, or a sitting be without its files or its sound.
    /// </summary>
    public (GatherState State, GatherEdit Inverse) Apply(GatherState state)
    {
        if (
            Sittings.Any(r => !state.Sittings.ContainsKey(r.Id))
            || Places.Any(r => !state.Sources.ContainsKey(r.Source))
            || Labels.Any(r => !state.Sources.ContainsKey(r.Source))
        )
        {
            throw new EditRefusedException("What this change is about is no longer in the production.");
        }
        if (
            Sittings
                .Select(r => (Row: r, Now: state.Sittings[r.Id]))
                .FirstOrDefault(s => s.Row.Gone && s.Now is { HasTexts: true, Gone: false })
                .Now is
            { } read
        )
        {
            throw new EditRefusedException($"{read.Title} was transcribed since; it stays, so that nothing of that is lost.");
        }
        var inverse = new GatherEdit(
            What,
            [.. Sittings.Select(r => RowOf(state.Sittings[r.Id]))],
            [.. Places.Select(r => new PlaceRow(r.Source, state.Sources[r.Source].Sitting, state.Sources[r.Source].Placement))],
            [.. Labels.Select(r => new LabelRow(r.Source, state.Sources[r.Source].Labels))],
            [.. Mics.Select(r => r with { Choice = state.Mics.GetValueOrDefault((r.Source, r.Channel), MicChoice.None) })]
        );
        var sources = state.Sources.SetItems(
            Places.Select(r => KeyValuePair.Create(r.Source, state.Sources[r.Source] with { Sitting = r.Sitting, Placement = r.Placement }))
        );
        var after = new GatherState(
            state.Sittings.SetItems(
                Sittings.Select(r =>
                    KeyValuePair.Create(r.Id, state.Sittings[r.Id] with { Title = r.Title, Sound = r.Sound, Gone = r.Gone })
                )
            ),
            sources.SetItems(Labels.Select(r => KeyValuePair.Create(r.Source, sources[r.Source] with { Labels = r.Labels }))),
            state.Mics.SetItems(Mics.Select(r => KeyValuePair.Create((r.Source, r.Channel), r.Choice)))
        );
        RefuseLosing(after);
        return (after, inverse);
    }

    // What somebody else did in between can make an edit fit no more: no file may come into a sitting that is gone, nor a sitting go or
    // stay without what makes it one.
    private void RefuseLosing(GatherState after)
    {
        foreach (
            var sitting in Sittings
                .Select(r => r.Id)
                .Concat(Places.Select(r => r.Sitting).OfType<long>())
                .Distinct()
                .Select(id => after.Sittings.GetValueOrDefault(id))
                .OfType<GatheredSitting>()
        )
        {
            var files = after.In(sitting.Id);
            if (sitting.Gone && files.Count > 0)
            {
                throw new EditRefusedException(
                    $"{files[0].Name} would lie in {sitting.Title}, which is gone by now. Move the file where it shall be instead."
                );
            }
            if (!sitting.Gone && (files.Count == 0 || (sitting.Sound is { } sound && files.All(f => f.Id != sound))))
            {
                throw new EditRefusedException(
                    $"{sitting.Title} has other files by now, and would be left without {(files.Count == 0 ? "any" : "its sound")}. Move "
                        + "the files where they shall be instead."
                );
            }
        }
    }

    /// <summary>This edit as it shall be made now, where others may have changed the rest since <paramref name="opposite"/> held.</summary>
    public GatherEdit Against(GatherEdit opposite, GatherState now)
    {
        var sittings = opposite.Sittings.ToDictionary(s => s.Id);
        return this with
        {
            Sittings =
            [
                .. Sittings
                    .Where(r => now.Sittings.ContainsKey(r.Id))
                    .Select(r =>
                        now.Sittings[r.Id] is var n && sittings.GetValueOrDefault(r.Id) is { } o
                            ? new SittingRow(
                                r.Id,
                                Rows.Changed(n.Title, r.Title, o.Title),
                                Rows.Changed(n.Sound, r.Sound, o.Sound),
                                Rows.Changed(n.Gone, r.Gone, o.Gone)
                            )
                            : r
                    ),
            ],
        };
    }

    /// <inheritdoc/>
    public static IEnumerable<string> Touches(GatherEdit edit, GatherEdit inverse)
    {
        var before = inverse.Sittings.ToDictionary(s => s.Id);
        return
        [
            .. edit.Sittings.SelectMany(r =>
                before.GetValueOrDefault(r.Id) is { } o
                    ?
                    [
                        .. Rows.Named(Invariant($"title {r.Id}"), r.Title, o.Title),
                        .. Rows.Named(Invariant($"sound {r.Id}"), r.Sound, o.Sound),
                        .. Rows.Named(Invariant($"sitting {r.Id}"), r.Gone, o.Gone),
                    ]
                    : (IEnumerable<string>)[Invariant($"sitting {r.Id}")]
            ),
            .. edit.Places.Select(r => Invariant($"place {r.Source}")),
            .. edit.Labels.Select(r => Invariant($"labels {r.Source}")),
            .. edit.Mics.Select(r => Invariant($"mic {r.Source}/{r.Channel}")),
        ];
    }

    internal static SittingRow RowOf(GatheredSitting sitting) => new(sitting.Id, sitting.Title, sitting.Sound, sitting.Gone);

    private static string Invariant(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
