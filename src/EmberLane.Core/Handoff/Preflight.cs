using System.Globalization;
using EmberLane.Core.Media;
using EmberLane.Core.Stories;

namespace EmberLane.Core.Handoff;

/// <summary>
/// Something that was looked at before the hand-off: whether it is fine, what was found, and what it means or how to mend it.
/// </summary>
public sealed record Check(bool Fine, string Title, string Detail)
{
    /// <summary>What mends it, or where it is mended.</summary>
    public Cure Cure { get; init; }
}

/// <summary>What mends something that was found.</summary>
public enum Cure
{
    /// <summary>Nothing that is done here.</summary>
    None,

    /// <summary>Moving the cuts that clip words into the silence beside them, at once.</summary>
    MendSeams,

    /// <summary>Taking the cards of which nothing is in use out of the story, at once.</summary>
    TakeOutEmpty,

    /// <summary>Taking the cards of bites that were set aside out of the story, at once.</summary>
    TakeOutAside,

    /// <summary>The captions that need a look.</summary>
    Captions,

    /// <summary>The files of the production.</summary>
    Files,

    /// <summary>The clocks of the sittings.</summary>
    Gather,

    /// <summary>The story.</summary>
    Story,

    /// <summary>What is off the record.</summary>
    OffTheRecord,
}

/// <summary>
/// A card, by its place from 1, about which there is something to say: what is shown where its chosen angle does not roll, whether its bite
/// was set aside, and whether nothing of it is in use.
/// </summary>
public sealed record OddCard(int Place, IReadOnlyList<string> ShownInstead, bool IsSetAside, bool IsEmpty);

/// <summary>Looks for what would go wrong at the editor's.</summary>
public static class Preflight
{
    /// <summary>
    /// Checks a story against the sources that its sittings use; <paramref name="missing"/> are the names of files that are not where they
    /// were, <paramref name="odd"/> cards about which there is something to say, by their places from 1.
    /// </summary>
    public static IReadOnlyList<Check> Run(
        TimecodeCount count,
        IReadOnlyList<Card> cards,
        IReadOnlyList<ListedSource> sources,
        IReadOnlyList<string> missing,
        IReadOnlyList<OddCard> odd
    )
    {
        if (cards.Count == 0)
        {
            return [new Check(false, "The story is empty", "Put bites into it in Story; the list then has something to say.")];
        }
        var checks = new List<Check>
        {
            missing.Count == 0
                ? new Check(true, "All files are where they were", Say($"{sources.Count} sources in the story's sittings"))
                : new Check(false, "Files are missing", string.Join(", ", missing) + ". Put them back before the editor opens the list.")
                {
                    Cure = Cure.Files,
                },
        };
        checks.AddRange(
            odd.Where(o => o.ShownInstead.Count > 0)
                .Select(o => new Check(
                    false,
                    Say($"Card {o.Place}: the angle that was chosen does not roll all along"),
                    $"Shown instead: {string.Join(", ", o.ShownInstead)}. Choose another angle in Story, or leave it so."
                )
                {
                    Cure = Cure.Story,
                })
        );
        checks.AddRange(
            odd.Where(o => o.IsSetAside)
                .Select(o => new Check(
                    false,
                    Say($"Card {o.Place} is of a bite that was set aside"),
                    "It is in the list. Take the card out, or bring the bite back."
                )
                {
                    Cure = Cure.TakeOutAside,
                })
        );
        checks.AddRange(
            odd.Where(o => o.IsEmpty)
                .Select(o => new Check(
                    false,
                    Say($"Card {o.Place} has nothing left"),
                    "All of its words were set aside, so it is not in the list. Take the card out, or bring words back in Read."
                )
                {
                    Cure = Cure.TakeOutEmpty,
                })
        );
        checks.AddRange(
            cards
                .Index()
                .Where(c => c.Item.SpaceBefore.Length > 0 || c.Item.SpaceAfter.Length > 0)
                .Select(c => new Check(
                    false,
                    Say($"Lines are missing beside card {c.Index + 1}"),
                    $"Nobody says: {string.Join(" / ", Missing(c.Item))} Lay a card " + $"there in Story, or take the space away."
                )
                {
                    Cure = Cure.Story,
                })
        );
        var foreign = sources.Where(s => s.Facts.Picture is { } p && p.Rate != count.Rate).ToList();
        if (foreign.Count > 0)
        {
            var named = foreign.GroupBy(s => s.Facts.Picture!.Rate).Select(g => Say($"{Names(g)} at {g.Key}"));
            checks.Add(
                new Check(
                    false,
                    Say($"Pictures of other rates than the story's {count.Rate}"),
                    $"{string.Join("; ", named)}. Their times are the camera's hours, minutes and seconds, the frames scaled: have the "
                        + "editor's program find media by timecode."
                )
            );
        }
        foreach (var source in sources.Where(s => s.Place is null))
        {
            checks.Add(
                new Check(
                    false,
                    $"{source.FileName} is not placed",
                    "It is left out of the list until it lies on its sitting's clock, in Gather."
                )
                {
                    Cure = Cure.Gather,
                }
            );
        }
        foreach (var source in sources.Where(s => s.Facts.Picture is { RateVaries: true }))
        {
            checks.Add(
                new Check(
                    false,
                    $"{source.FileName} has an uneven frame rate",
                    "Its frames do not keep to one rate. Have it converted before editing."
                )
            );
        }
        checks.AddRange(
            sources
                .Where(s => s.Facts.Start is { Label: null, SinceMidnight: null })
                .Select(s => new Check(true, $"{s.FileName} has no timecode", "Its times count from 00:00:00:00 at its first frame."))
        );
        var renamed = sources.Where(s => s.Reel != ReelName.From(s.Facts.ReelTag, s.FileName, ReelName.StrictLength)).ToList();
        checks.Add(
            renamed.Count == 0
                ? new Check(true, "Every source has a reel of its own", "eight characters, as the strict form asks")
                : new Check(
                    false,
                    "Reel names were made different",
                    string.Join(", ", renamed.Select(s => $"{s.FileName} is {s.Reel}")) + ". Tell the editor, or tag the files."
                )
        );
        return [.. checks.OrderBy(c => c.Fine)];
    }

    private static string[] Missing(Card card) =>
        (card.SpaceBefore + "\n" + card.SpaceAfter).Split('\n', StringSplitOptions.RemoveEmptyEntries);

    private static string Names(IEnumerable<ListedSource> sources) =>
        string.Join(", ", sources.Select(s => Path.GetFileNameWithoutExtension(s.FileName)));

    private static string Say(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
