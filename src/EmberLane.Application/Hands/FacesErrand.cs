using System.Text.Json;
using EmberLane.Core.Pictures;
using EmberLane.Engines.Pictures;

namespace EmberLane.Application.Hands;

/// <summary>A shot as it was measured, and who is seen in it.</summary>
public sealed record MeasuredShot(ShotFacts Facts, IReadOnlyList<SeenPerson> People);

/// <summary>The shots of a file and the faces in them.</summary>
public static class FacesErrand
{
    private const int MostShots = 100_000;

    // In how many places; all of the file where none are given.
    private sealed record What(long Length, int? Places);

    private sealed record Shot(
        long In,
        long Out,
        int Brightness,
        int Movement,
        List<string> Colours,
        int Faces,
        int LargestFace,
        byte[] Look,
        List<Person> People
    );

    private sealed record Person(int X, int Y, int Width, int Height, long Best, int Seen, byte[] Look);

    /// <summary>The errand for a file of this length: all of it is looked at, or so many places of it.</summary>
    public static Errand Of(string title, string footage, MediaTime length, int? places) =>
        new(ErrandKinds.Faces, title, JsonSerializer.Serialize(new What(length.Units, places)), length) { Footage = footage };

    /// <summary>The shots of an answer, by time. Throws <see cref="FormatException"/> where they can not be those of this file.</summary>
    public static IReadOnlyList<MeasuredShot> Read(Errand errand, string answer)
    {
        try
        {
            var shots = JsonSerializer.Deserialize<List<Shot>>(answer) ?? [];
            return shots.Count <= MostShots
                ? [.. shots.Select(s => Measured(s, errand.Length))]
                : throw new FormatException($"A file has no {shots.Count} shots.");
        }
        catch (Exception odd) when (odd is JsonException or ArgumentException or NullReferenceException)
        {
            throw new FormatException("What was measured of the picture can not be read.", odd);
        }
    }

    internal static async Task<string> DoAsync(Errand errand, ErrandProgress progress, CancellationToken cancel)
    {
        var what = Asked.Read<What>(errand);
        var (footage, length) = (Asked.Footage(errand), new MediaTime(what.Length));
        var seen = what.Places is { } places
            ? new SeenFile(await PictureReader.PlacesAsync(footage, length, places, cancel), [])
            : await PictureReader.WholeAsync(footage, length, at => progress(at, ""), cancel);
        return JsonSerializer.Serialize(
            ShotMeasure
                .Shots(seen.Cuts, length)
                .Select(shot => (Facts: ShotMeasure.Of(shot, seen.Frames), People: SeenPerson.Of(seen.Frames, shot)))
                .Where(m => m.Facts is not null)
                .Select(m => Row(m.Facts!, m.People))
        );
    }

    private static Shot Row(ShotFacts facts, IReadOnlyList<SeenPerson> people) =>
        new(
            facts.Range.In.FromZero.Units,
            facts.Range.Out.FromZero.Units,
            facts.Brightness.Value,
            facts.Movement.Value,
            [.. facts.Colours.Select(c => c.ToString())],
            facts.Faces,
            facts.LargestFace.Value,
            facts.Look.Numbers,
            [
                .. people.Select(p => new Person(
                    p.Box.X,
                    p.Box.Y,
                    p.Box.Width,
                    p.Box.Height,
                    p.Best.FromZero.Units,
                    p.Seen.Value,
                    p.Look.Numbers
                )),
            ]
        );

    private static MeasuredShot Measured(Shot s, MediaTime length) =>
        s.In < 0 || s.Out <= s.In || s.Out > length.Units || s.Faces < 0
            ? throw new FormatException("A shot that was measured does not lie in its file.")
            : new MeasuredShot(
                new ShotFacts(
                    new SourceRange(At(s.In), At(s.Out)),
                    Share(s.Brightness),
                    Share(s.Movement),
                    s.Colours.ConvertAll(Enum.Parse<PictureColour>),
                    s.Faces,
                    Share(s.LargestFace),
                    Look(s.Look)
                ),
                s.People.ConvertAll(p => new SeenPerson(
                    new PictureBox(p.X, p.Y, p.Width, p.Height),
                    At(p.Best),
                    Share(p.Seen),
                    Look(p.Look)
                ))
            );

    private static SourceTime At(long units) => new(new MediaTime(units));

    private static PerMille Share(int value) =>
        value is >= 0 and <= 1000 ? new PerMille(value) : throw new FormatException($"A share of {value} thousandths is none.");

    private static PictureLook Look(byte[] numbers) =>
        numbers.Length == PictureLook.Length
            ? new PictureLook(numbers)
            : throw new FormatException("What a picture looks like came with another count of numbers.");
}
