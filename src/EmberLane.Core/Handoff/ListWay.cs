using EmberLane.Core.Media;

namespace EmberLane.Core.Handoff;

/// <summary>How lists of a story are wanted.</summary>
public sealed record ListWay
{
    /// <summary>By whose clock sources of another rate are labelled.</summary>
    public LabelClock Clock { get; init; }

    /// <summary>Whether reels may be 32 characters long, which most readers of lists take, in place of 8, which all do.</summary>
    public bool AreReelsLong { get; init; }

    /// <summary>Whether what was taken out leaves a gap of its length.</summary>
    public bool AreGapsLeft { get; init; }

    /// <summary>
    /// Whether pictures over cards lie on a track above the cut, and each picture track beside the cut has a list of its own.
    /// </summary>
    public bool AreTracksApart { get; init; }

    /// <summary>
    /// The label of the first frame of an editor's master of each sitting, which begins where its first file does; null for lists of the
    /// camera and recorder files.
    /// </summary>
    public Timecode? Master { get; init; }

    /// <summary>
    /// The name of the shape in which it is seen, narrower than it was filmed: camera plans prefer who speaks alone, and what of each
    /// picture is seen is told. Null for the whole picture.
    /// </summary>
    public string? Shape { get; init; }

    /// <summary>How long a reel may be.</summary>
    public int ReelLength => AreReelsLong ? ReelName.LongLength : ReelName.StrictLength;

    /// <summary>
    /// A sitting of which there is one file, by which its pictures and its sound are known; as it was where none of its files has a place.
    /// </summary>
    public static ListedSitting Mastered(ListedSitting sitting, string title, string reel, Timecode start)
    {
        var placed = sitting.Files.Where(f => f.Place is not null).Select(f => f.Place!.Value.Fill(f.Facts.Duration)).ToList();
        if (placed.Count == 0)
        {
            return sitting;
        }
        var begins = placed.Min(p => p.In);
        var facts = new SourceFacts(
            "master",
            placed.Max(p => p.Out) - begins,
            new PictureFacts("", "", 0, 0, start.Count.Rate, false),
            [new SoundTrack(1, "", 48_000, 2)],
            new StartOfFile(start, null),
            reel,
            null,
            null
        );
        var master = new ListedSource(-sitting.Id, reel, title, facts, new ClockMap(begins, 0));
        return new ListedSitting(sitting.Id, [master], master) { Files = [master] };
    }
}
