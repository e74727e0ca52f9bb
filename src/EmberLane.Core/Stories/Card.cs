using System.Globalization;
using System.Text.Json.Serialization;

namespace EmberLane.Core.Stories;

/// <summary>
/// One piece of talk in a story: a stretch of the sitting that its bite was kept of, and the angle that shows it (a source's id), or null
/// when the story chooses. The stretch is the card's own: it may be shorter or longer than the bite.
/// </summary>
public sealed record Card(Guid Id, long BiteId, long SittingId, SittingRange Range, long? Angle) : Piece(Id)
{
    /// <summary>The bites that are other takes of the same, by id with a blank between; may be empty.</summary>
    public string OtherTakes { get; init; } = "";

    /// <summary>Lines of a script that nobody says, a line each, which belong before this card; may be empty.</summary>
    public string SpaceBefore { get; init; } = "";

    /// <summary>The same behind it: those of the script's end.</summary>
    public string SpaceAfter { get; init; } = "";

    /// <summary>The stretch before its ends were mended; null where they were not.</summary>
    public SittingRange? Unmended { get; init; }

    /// <summary>The picture that is seen over its sound; null for its own.</summary>
    public OverPicture? Over { get; init; }

    /// <summary>A card has no more other takes than this, and its missing lines no more characters.</summary>
    public const int MostTakes = 40,
        LongestLines = 100_000;

    /// <summary>Its other takes' ids. Throws <see cref="EditRefusedException"/> where they are none, or too many.</summary>
    internal static IReadOnlyList<long> TakesOf(string takes)
    {
        var ids = new List<long>();
        foreach (var take in takes.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            if (!long.TryParse(take, NumberStyles.None, CultureInfo.InvariantCulture, out var id) || ids.Count == MostTakes)
            {
                throw new EditRefusedException(
                    FormattableString.Invariant($"A card has at most {MostTakes} other takes, each another bite.")
                );
            }
            ids.Add(id);
        }
        return ids;
    }

    private protected override Card Whole()
    {
        if (Range.Length <= MediaTime.Zero)
        {
            throw new EditRefusedException("Nothing would be left of that card. Take it out instead.");
        }
        if (Range.In.FromZero < -Longest || Range.Out.FromZero > Longest || Over is { } over && !over.IsPossible)
        {
            throw new EditRefusedException("That lies outside of any sitting, or of any file.");
        }
        if (SpaceBefore.Length > LongestLines || SpaceAfter.Length > LongestLines)
        {
            throw new EditRefusedException("The missing lines beside a card are too long.");
        }
        TakesOf(OtherTakes);
        return this;
    }
}

/// <summary>
/// The picture of another file over a card: the stretch of that file, and how long after the card's begin it comes. Where the card is
/// shorter the rest of it is not seen; where it is longer its own picture is.
/// </summary>
public sealed record OverPicture(long SourceId, SourceRange Range, MediaTime After)
{
    /// <summary>Whether it is a stretch of a file, and comes in with the card or behind its begin.</summary>
    [JsonIgnore]
    public bool IsPossible =>
        Range.Length > MediaTime.Zero
        && Range.In.FromZero >= MediaTime.Zero
        && Range.Out.FromZero <= Piece.Longest
        && After >= MediaTime.Zero
        && After <= Piece.Longest;

    /// <summary>It over a card that begins so much later; null where it is past by then.</summary>
    public OverPicture? From(MediaTime by) =>
        by <= MediaTime.Zero ? this
        : After >= by ? this with { After = After - by }
        : by - After < Range.Length ? new OverPicture(SourceId, new SourceRange(Range.In + (by - After), Range.Out), MediaTime.Zero)
        : null;

    /// <summary>
    /// A stretch of the card that begins so long after the card does, parted where this picture comes and goes: each part, and where in the
    /// file its picture begins, or null where the card's own is seen.
    /// </summary>
    public IEnumerable<(SittingRange Shown, SourceTime? From)> Within(SittingRange stretch, MediaTime into)
    {
        SittingTime begin = stretch.In - into + After,
            comes = Bounded(begin),
            goes = Bounded(begin + Range.Length);
        if (comes > stretch.In)
        {
            yield return (new SittingRange(stretch.In, comes), null);
        }
        if (goes > comes)
        {
            yield return (new SittingRange(comes, goes), Range.In + (comes - begin));
        }
        if (goes < stretch.Out && (goes > comes || comes == stretch.In))
        {
            yield return (new SittingRange(goes, stretch.Out), null);
        }

        SittingTime Bounded(SittingTime at) =>
            at < stretch.In ? stretch.In
            : at > stretch.Out ? stretch.Out
            : at;
    }
}
