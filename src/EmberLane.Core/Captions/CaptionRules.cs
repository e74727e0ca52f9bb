using System.Globalization;

namespace EmberLane.Core.Captions;

/// <summary>How captions are made: their lines, how long they stand, and how fast they may be read.</summary>
public sealed record CaptionRules
{
    /// <summary>Characters a line, 10 to 120.</summary>
    public int Line { get; init; } = 37;

    /// <summary>Lines a caption, 1 to 4.</summary>
    public int Lines { get; init; } = 2;

    /// <summary>Characters a second that a reader can follow, 5 to 60. Kept wherever the talk leaves room.</summary>
    public int Speed { get; init; } = 17;

    /// <summary>No caption stands for less.</summary>
    public MediaTime Shortest { get; init; } = MediaTime.FromMilliseconds(1_000);

    /// <summary>None for more.</summary>
    public MediaTime Longest { get; init; } = MediaTime.FromMilliseconds(6_000);

    /// <summary>So much lies between two captions at least.</summary>
    public MediaTime Gap { get; init; } = MediaTime.FromMilliseconds(80);

    /// <summary>Whether two who answer quickly never share a caption.</summary>
    public bool AreSpeakersApart { get; init; }

    /// <summary>Throws <see cref="FormatException"/> that names the rule that can not be kept.</summary>
    public CaptionRules Check() =>
        Line is < 10 or > 120 ? throw new FormatException(Say($"line: a line has 10 to 120 characters, not {Line}."))
        : Lines is < 1 or > 4 ? throw new FormatException(Say($"lines: a caption has 1 to 4 lines, not {Lines}."))
        : Speed is < 5 or > 60 ? throw new FormatException(Say($"speed: people read 5 to 60 characters a second, not {Speed}."))
        : Shortest < MediaTime.FromMilliseconds(100) || Shortest > MediaTime.FromMilliseconds(10_000)
            ? throw new FormatException("shortest: a caption stands for 0.1 to 10 seconds at least.")
        : Longest < Shortest || Longest > MediaTime.FromMilliseconds(60_000)
            ? throw new FormatException("longest: it is at least the shortest, and 60 seconds at most.")
        : Gap < MediaTime.Zero || Gap > MediaTime.FromMilliseconds(2_000)
            ? throw new FormatException("gap: between captions lie 0 to 2 seconds.")
        : this;

    private static string Say(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}

/// <summary>A caption: when it stands, from the begin of what it belongs to, who speaks, and its lines.</summary>
/// <param name="First">The number of its first word from 0.</param>
/// <param name="Words">How many words it has.</param>
public sealed record Caption(MediaTime In, MediaTime Out, IReadOnlyList<CaptionLine> Lines, int First, int Words)
{
    /// <summary>How many characters are read; line ends count as none.</summary>
    public int Characters => Lines.Sum(l => l.Shown.Length);
}

/// <summary>A line of a caption, and who says it; the first of each where several speak has a dash before it.</summary>
public sealed record CaptionLine(string? Who, string Said, bool IsDashed)
{
    /// <summary>As it stands on the screen.</summary>
    public string Shown => IsDashed ? CaptionMaker.Dash + Said : Said;
}
