namespace EmberLane.Core.Cameras;

/// <summary>A mic that is open for a while.</summary>
public readonly record struct OpenMic(string Who, PlanRange Range);

/// <summary>
/// Which mics are open when: each follows its speaker with a lead and a tail, those of people who talk at once are open together, and in a
/// silence the last one stays open until the next opens, so that the room is never gone.
/// </summary>
public static class MicPlan
{
    /// <summary>The openings in the order of their begins. Sorts; else linear. None where nobody speaks.</summary>
    public static IReadOnlyList<OpenMic> Of(IReadOnlyList<PlanTurn> speech, MediaTime length, CameraRules rules)
    {
        var all = new PlanRange(MediaTime.Zero, length);
        var open = speech
            .Where(t => t.Range.In < t.Range.Out && t.Range.Meets(all))
            .GroupBy(t => t.Who, StringComparer.Ordinal)
            .SelectMany(own => Own(own.Key, own.Select(t => t.Range), length, rules))
            .OrderBy(m => m.Range.In)
            .ThenBy(m => m.Range.Out)
            .ToList();
        return Filled(open, length);
    }

    private static IEnumerable<OpenMic> Own(string who, IEnumerable<PlanRange> turns, MediaTime length, CameraRules rules) =>
        PlanRange
            .Joined(
                PlanRange
                    .Joined(turns.Select(t => t with { Out = t.Out + rules.MicHold }))
                    .Select(t => new PlanRange(t.In - rules.MicLead, t.Out - rules.MicHold + rules.MicTail))
            )
            .Select(t => new PlanRange(MediaTime.Max(t.In, MediaTime.Zero), MediaTime.Min(t.Out, length)))
            .Where(t => t.In < t.Out)
            .Select(t => new OpenMic(who, t));

    // Where all are closed the last one stays open; before the first, that one.
    private static List<OpenMic> Filled(List<OpenMic> open, MediaTime length)
    {
        if (open.Count == 0)
        {
            return open;
        }
        open[0] = open[0] with { Range = open[0].Range with { In = MediaTime.Zero } };
        var last = 0;
        for (var i = 1; i < open.Count; i++)
        {
            if (open[last].Range.Out < open[i].Range.In)
            {
                open[last] = open[last] with { Range = open[last].Range with { Out = open[i].Range.In } };
            }
            if (open[i].Range.Out >= open[last].Range.Out)
            {
                last = i;
            }
        }
        open[last] = open[last] with { Range = open[last].Range with { Out = MediaTime.Max(open[last].Range.Out, length) } };
        return open;
    }
}
