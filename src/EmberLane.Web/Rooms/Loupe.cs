using System.Globalization;
using System.Text;
using EmberLane.Core.Seams;
using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;
using EmberLane.Web.Rooms.Drawn;

namespace EmberLane.Web.Rooms;

/// <summary>A word in the loupe: what it is and where it lies.</summary>
public sealed record LoupeWord(string Text, SittingRange Range);

/// <summary>
/// One side of a seam as it is drawn: the card and the mark of who says most in it, where it is cut, the stretch that is seen, how loud
/// each 5 ms of it are from 0 to 1, its words, the end as it was judged, where the sitting's measured sound begins, and where its sound is
/// played.
/// </summary>
public sealed record LoupeSide(
    Card Card,
    SpeakerMark Mark,
    SittingTime Cut,
    SittingRange Window,
    Alike<double> Loudness,
    Alike<LoupeWord> Words,
    SeamEdge? Edge,
    SittingTime? SoundFrom,
    (string Address, ClockMap Place)? Sound
);

/// <summary>Which ends at a seam are meant.</summary>
public enum SeamEnds
{
    /// <summary>The end of the card before it.</summary>
    End,

    /// <summary>The begin of the card behind it.</summary>
    Begin,

    /// <summary>Both, together.</summary>
    Both,
}

/// <summary>A seam laid open: both sides on one axis, the cut in its middle.</summary>
public sealed record Loupe(StorySeam Seam, LoupeSide? End, LoupeSide? Begin)
{
    /// <summary>A sample is one of so many in a second, whatever the file has.</summary>
    public const int SamplesASecond = 48_000;

    /// <summary>The drawing is so wide; the cut lies in its middle.</summary>
    public const int Wide = 1_000;

    private const int Middle = Wide / 2,
        High = 46;

    private static readonly MediaTime Half = MediaTime.FromMilliseconds(1_500);

    /// <summary>So many milliseconds are drawn.</summary>
    public static long WideMilliseconds => 2 * Half.ToMillisecondsRounded();

    /// <summary>What is heard of each side before and behind the cut.</summary>
    public static readonly MediaTime Heard = MediaTime.FromMilliseconds(1_000);

    /// <summary>The cards whose ends are meant, as a query; null where one of them is not there.</summary>
    public string? Ends(SeamEnds which) =>
        (which != SeamEnds.Begin && End is null) || (which != SeamEnds.End && Begin is null)
            ? null
            : (which != SeamEnds.Begin ? $"&ends={End!.Card.Id}" : "") + (which != SeamEnds.End ? $"&begins={Begin!.Card.Id}" : "");

    /// <summary>The stretch that is drawn around a cut: one and a half seconds to either side.</summary>
    public static SittingRange Window(SittingTime cut, bool isEnd) => new(cut - Half, cut + Half);

    /// <summary>How loud each step of a stretch is: 0 for the quiet of the stretch, 1 for its loudest.</summary>
    public static IReadOnlyList<double> Loudness(SittingSeamSound sound, SittingRange window)
    {
        int first = SeamSound.StepAt(sound.In(window.In)),
            end = SeamSound.StepAt(sound.In(window.Out));
        double floor = sound.Sound.Share(first, end, 3),
            most = Math.Max(floor + 12, sound.Sound.Share(first, end, 100));
        return [.. Enumerable.Range(first, end - first).Select(s => Math.Clamp((sound.Sound.At(s) - floor) / (most - floor), 0, 1))];
    }

    /// <summary>The words that lie in a stretch, without those taken out.</summary>
    public static IReadOnlyList<LoupeWord> WordsIn(Transcript text, SittingRange window) =>
        [
            .. text
                .Words.Where(w => w.Range.Out > window.In && w.Range.In < window.Out && !text.IsHidden(w))
                .Select(w => new LoupeWord(text.TextOf(w), w.Range)),
        ];

    /// <summary>Where a moment lies in the drawing.</summary>
    public static string X(LoupeSide side, SittingTime at) =>
        ((double)(at - side.Cut).Units * Middle / Half.Units + Middle).ToString("0.#", CultureInfo.InvariantCulture);

    /// <summary>The outline of a side's loudness, standing on a line and hanging from it alike.</summary>
    public static string Outline(LoupeSide side, int axis)
    {
        var count = side.Loudness.Count;
        var path = new StringBuilder();
        for (var i = 0; i < count; i++)
        {
            Point(i, -1);
        }
        for (var i = count - 1; i >= 0; i--)
        {
            Point(i, 1);
        }
        return path.Length == 0 ? "" : path.Append('Z').ToString();

        void Point(int i, int up) =>
            path.Append(
                CultureInfo.InvariantCulture,
                $"{(path.Length == 0 ? 'M' : 'L')}{(double)i * Wide / count:0.#},{axis + (up * (1 + (side.Loudness[i] * High))):0.#}"
            );
    }

    /// <summary>The quiet that there is to cut in, as two places in the drawing; null where there is none.</summary>
    public static (string From, string To)? RoomOf(LoupeSide side) =>
        side is { Edge.Room: { } room, SoundFrom: { } from } ? (X(side, from + room.From), X(side, from + room.To)) : null;

    /// <summary>What the player needs to sound the seam: the last second of the one, the first of the other; as JSON.</summary>
    public string Play() =>
        System.Text.Json.JsonSerializer.Serialize(new[] { Part(End, isEnd: true), Part(Begin, isEnd: false) }.OfType<object>());

    private static object? Part(LoupeSide? side, bool isEnd)
    {
        if (side is not { Sound: { } sound })
        {
            return null;
        }
        SittingTime from = isEnd ? Later(side.Card.Range.In, side.Cut - Heard) : side.Cut,
            to = isEnd ? side.Cut : Earlier(side.Card.Range.Out, side.Cut + Heard);
        return new
        {
            length = (to - from).ToSecondsText(),
            sound = new { address = sound.Address, at = sound.Place.ToSource(from).FromZero.ToSecondsText() },
        };
    }

    private static SittingTime Later(SittingTime one, SittingTime other) => one > other ? one : other;

    private static SittingTime Earlier(SittingTime one, SittingTime other) => one < other ? one : other;
}
