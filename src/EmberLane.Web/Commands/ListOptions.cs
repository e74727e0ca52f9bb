using System.CommandLine;
using EmberLane.Core.Handoff;
using EmberLane.Core.Time;

namespace EmberLane.Web.Commands;

/// <summary>How <c>ember handoff</c> is told which lists are wanted.</summary>
internal sealed class ListOptions
{
    private readonly Option<string> clock = new("--source-times")
    {
        Description = "How sources of another rate are labelled: by the camera's clock, or counted at the list's rate.",
        DefaultValueFactory = _ => "camera",
    };

    private readonly Option<string?> master = new("--master")
    {
        Description =
            "Lists of one master of each sitting, whose first frame has this timecode, in place of the camera and recorder files.",
        HelpName = "01:00:00:00",
    };

    private readonly Option<bool> reels = new("--long-reels") { Description = "Reels of up to 32 characters, in place of 8." },
        gaps = new("--gaps-as-spoken") { Description = "What was taken out leaves a gap of its length." },
        tracks =
            new("--tracks-apart")
            {
                Description = "Pictures over cards on a track above the cut, and a decision list for each picture track beside the cut.",
            };

    /// <summary>Knows which ways of labelling there are.</summary>
    public ListOptions() => clock.AcceptOnlyFromAmong("camera", "list");

    /// <summary>What was asked.</summary>
    public sealed record Asked(string Clock, string? Master, bool AreReelsLong, bool AreGapsLeft, bool AreTracksApart)
    {
        /// <summary>It for a list that counts so. Throws <see cref="FormatException"/> for a master's start that is no timecode.</summary>
        public ListWay WayOf(TimecodeCount count) =>
            new()
            {
                Clock = Clock == "list" ? LabelClock.List : LabelClock.Camera,
                Master = Master is null ? null : count.Parse(Master),
                AreReelsLong = AreReelsLong,
                AreGapsLeft = AreGapsLeft,
                AreTracksApart = AreTracksApart,
            };
    }

    /// <summary>Adds them to a command.</summary>
    public void AddTo(Command command)
    {
        foreach (var option in (Option[])[clock, master, reels, gaps, tracks])
        {
            command.Options.Add(option);
        }
    }

    /// <summary>What was asked with them.</summary>
    public Asked Of(ParseResult asked) =>
        new(asked.GetValue(clock)!, asked.GetValue(master), asked.GetValue(reels), asked.GetValue(gaps), asked.GetValue(tracks));
}
