using System.Globalization;
using EmberLane.Core.Media;

namespace EmberLane.Core.Pictures;

/// <summary>Whose face it is that is seen at a moment of a file, at a place in thousandths of the picture.</summary>
public sealed record NamedFace(SourceTime At, int X, int Y, string Name)
{
    /// <summary>The longest name, in characters.</summary>
    public const int LongestName = 60;

    /// <summary>Those that are named on a file.</summary>
    public static IReadOnlyList<NamedFace> Of(Labels labels) =>
        [.. labels.Seen.Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(Read)];

    /// <summary>The name that was given to one who is seen in a shot; null where nobody gave one.</summary>
    public static string? NameOf(Labels labels, SourceRange shot, SeenPerson person) =>
        Of(labels).FirstOrDefault(n => n.IsOf(shot, person))?.Name;

    /// <summary>
    /// A file's labels with a name for one who is seen in a shot; an empty one takes the name away. Throws
    /// <see cref="EditRefusedException"/> for a name that is too long.
    /// </summary>
    public static Labels Give(Labels labels, SourceRange shot, SeenPerson person, string name)
    {
        var clean = TypedText.OneLine(name);
        if (clean.Length > LongestName)
        {
            throw new EditRefusedException(string.Create(CultureInfo.InvariantCulture, $"A name takes at most {LongestName} characters."));
        }
        var (x, y) = person.Box.Middle;
        var kept = Of(labels).Where(n => !n.IsOf(shot, person));
        return labels with
        {
            Seen = string.Join(
                '\n',
                (clean.Length == 0 ? kept : kept.Append(new NamedFace(person.Best, x, y, clean))).Select(n =>
                    string.Create(CultureInfo.InvariantCulture, $"{n.At.FromZero.Units} {n.X} {n.Y} {n.Name}")
                )
            ),
        };
    }

    // The face that was named lies where this one lies, in the same shot.
    private bool IsOf(SourceRange shot, SeenPerson person) =>
        At >= shot.In
        && At < shot.Out
        && X >= person.Box.X - (person.Box.Width / 2)
        && X <= person.Box.X + (person.Box.Width * 3 / 2)
        && Y >= person.Box.Y - (person.Box.Height / 2)
        && Y <= person.Box.Y + (person.Box.Height * 3 / 2);

    private static NamedFace Read(string line)
    {
        var parts = line.Split(' ', 4);
        return new NamedFace(
            new SourceTime(new MediaTime(long.Parse(parts[0], CultureInfo.InvariantCulture))),
            int.Parse(parts[1], CultureInfo.InvariantCulture),
            int.Parse(parts[2], CultureInfo.InvariantCulture),
            parts[3]
        );
    }
}
