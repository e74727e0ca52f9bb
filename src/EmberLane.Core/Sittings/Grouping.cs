using System.Globalization;
using EmberLane.Core.Media;
using EmberLane.Core.Mics;

namespace EmberLane.Core.Sittings;

/// <summary>
/// The rules by which files come into sittings, leave them and part: each gives the edit that does it, or throws
/// <see cref="EditRefusedException"/> with the reason.
/// </summary>
public static class Grouping
{
    /// <summary>The longest title of a sitting, in characters.</summary>
    public const int LongestTitle = 120;

    /// <summary>
    /// Puts sources into a sitting, into a new one, or out of any sitting (both null). <paramref name="made"/> is the new one, empty and
    /// gone as long as nothing was put into it. Those that come from one sitting into a new one keep how they lie to each other. A sitting
    /// that is left empty goes. Null when all of them are there already. Refused where a text goes by a source's sound, or would be left
    /// without any source.
    /// </summary>
    public static GatherEdit? Move(GatherState state, IReadOnlyList<long> sources, long? into, long? made)
    {
        var goal = made ?? into;
        var moving = sources.Select(id => state.Sources[id]).Where(s => goal is null || s.Sitting != goal).ToList();
        if (moving.Count == 0)
        {
            return null;
        }
        var left = moving.Select(s => s.Sitting).OfType<long>().Distinct().Select(id => state.Sittings[id]).ToList();
        foreach (var sitting in left)
        {
            RefuseLosingTheSound(state, sitting, moving);
        }
        var edit = GatherEdit.Nothing(
            goal is not { } there ? $"{Files(moving)} taken out"
            : made is null ? $"{Files(moving)} put into {state.Sittings[there].Title}"
            : $"{state.Sittings[there].Title} made of {Files(moving)}"
        );
        foreach (var sitting in left)
        {
            var staying = state.In(sitting.Id).Where(s => moving.All(m => m.Id != s.Id)).ToList();
            edit = Settled(edit, sitting, staying, staying, sitting.Sound);
        }
        if (goal is not { } id)
        {
            return Lay(edit, moving, [.. moving.Select(s => (s.Id, Sync.Placement.Nowhere()))], null);
        }
        var oneClock = made is not null && left.Count == 1 && moving.All(s => s.Sitting == left[0].Id);
        var arriving = oneClock ? moving : [.. moving.Select(s => s with { Placement = Sync.Placement.Nowhere() })];
        var before = state.In(id);
        return Settled(edit, state.Sittings[id], [.. before, .. moving], [.. before, .. arriving], state.Sittings[id].Sound);
    }

    /// <summary>Gives a sitting another title.</summary>
    public static GatherEdit Rename(GatheredSitting sitting, string title)
    {
        var clean = Title(title);
        return GatherEdit.Nothing($"{sitting.Title} renamed {clean}") with
        {
            Sittings = [GatherEdit.RowOf(sitting) with { Title = clean }],
        };
    }

    /// <summary>Writes on sources; <paramref name="what"/> says in few words what is written.</summary>
    public static GatherEdit Label(IReadOnlyList<GatheredSource> sources, Func<Labels, Labels> change, string what = "labels") =>
        GatherEdit.Nothing($"{what} of {Files(sources)}") with
        {
            Labels = [.. sources.Select(s => new LabelRow(s.Id, change(s.Labels)))],
        };

    /// <summary>Decides about a channel of a source, counted from 0, about which <paramref name="now"/> is decided so far.</summary>
    public static GatherEdit SetMic(GatheredSource source, int channel, MicChoice now, Func<MicChoice, MicChoice> change) =>
        channel < 0 || channel >= source.Channels
            ? throw new EditRefusedException(string.Create(CultureInfo.InvariantCulture, $"{source.Name} has no channel {channel + 1}."))
            : GatherEdit.Nothing(string.Create(CultureInfo.InvariantCulture, $"mic {channel + 1} of {source.Name}")) with
            {
                Mics = [new MicRow(source.Id, channel, change(now))],
            };

    /// <summary>What was typed as a title, fit to be kept.</summary>
    public static string Title(string title) =>
        TypedText.OneLine(title) is { Length: > 0 and <= LongestTitle } clean
            ? clean
            : throw new EditRefusedException(
                string.Create(CultureInfo.InvariantCulture, $"Give the sitting a title of at most {LongestTitle} characters.")
            );

    private static GatherEdit Settled(
        GatherEdit edit,
        GatheredSitting sitting,
        List<GatheredSource> were,
        List<GatheredSource> are,
        long? reference
    )
    {
        var (sources, sound) = Regroup.Settle(
            [.. are.Select(s => new Grouped(s.Id, s.Placement, s.HasPicture, s.Channels > 0))],
            reference
        );
        var heard = are.Any(s => s.Id == sound && s.Channels > 0) ? sound : null;
        return Lay(
            edit with
            {
                Sittings = [.. edit.Sittings, new SittingRow(sitting.Id, sitting.Title, heard, are.Count == 0)],
            },
            were,
            [.. sources.Select(s => (s.Id, s.Placement))],
            sitting.Id
        );
    }

    private static GatherEdit Lay(GatherEdit edit, List<GatheredSource> were, List<(long Id, Sync.Placement Placement)> are, long? sitting)
    {
        var placed = are.ToDictionary(a => a.Id, a => a.Placement);
        return edit with
        {
            Places =
            [
                .. edit.Places,
                .. were.Where(s => s.Sitting != sitting || s.Placement != placed[s.Id])
                    .Select(s => new PlaceRow(s.Id, sitting, placed[s.Id])),
            ],
        };
    }

    // Words and bites are known by the moments of that sound, whether the sitting is read by them now or not: without it nobody could hear
    // them again.
    private static void RefuseLosingTheSound(GatherState state, GatheredSitting sitting, List<GatheredSource> moving)
    {
        if (!sitting.HasTexts)
        {
            return;
        }
        if (moving.FirstOrDefault(s => s.Id == sitting.Sound) is { } sound)
        {
            throw new EditRefusedException(
                $"{sitting.Title} is transcribed, and its texts and bites go by the sound of {sound.Name}. That file stays there; the "
                    + "others can be moved."
            );
        }
        if (state.In(sitting.Id).All(s => moving.Any(m => m.Id == s.Id)))
        {
            throw new EditRefusedException($"{sitting.Title} has texts, so it stays, and with it at least one of its files.");
        }
    }

    private static string Files(IReadOnlyList<GatheredSource> sources) =>
        sources.Count == 1 ? sources[0].Name : string.Create(CultureInfo.InvariantCulture, $"{sources.Count} files");
}
