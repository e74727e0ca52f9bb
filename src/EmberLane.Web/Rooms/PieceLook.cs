using EmberLane.Core.Stories;
using EmberLane.Web.Pages.Story;

namespace EmberLane.Web.Rooms;

/// <summary>How a piece that is no card of a bite is shown: what it is, its text, its length, and what stands beside that.</summary>
public sealed record PieceLook(string Kind, string Text, string CssClass, string Length, string Beside)
{
    /// <summary>What can be laid beside bites, and what each is called.</summary>
    public static IReadOnlyList<(string Kind, string Says)> Kinds { get; } =
    [("section", "a section"), ("space", "a space for pictures"), ("title", "a title"), ("narration", "narration")];

    /// <summary>Of a piece of a story that is shown.</summary>
    public static PieceLook Of(Piece piece, IndexModel story)
    {
        var length = story.Rate.TimeOf(story.Cut.Frames(piece, story.Rate)).ToString();
        return piece switch
        {
            SectionHead head => new PieceLook(
                "Section",
                head.Name,
                "section-head",
                story.Sections[head.Id].Running.ToString(),
                Against(head.Target, story.Sections[head.Id].Running)
            ),
            Space space => new PieceLook("Space for pictures", space.WaitsFor, "space-piece", length, ""),
            TitleCard title => new PieceLook("Title", title.Words, "title-piece", length, ""),
            Narration narration => new PieceLook(
                "Narration",
                narration.Words,
                "narration-piece",
                length,
                string.Join(
                    ", ",
                    new[] { narration.Length > MediaTime.Zero ? "" : "estimated", story.IsRead ? "scratch voice" : "" }.Where(t =>
                        t.Length > 0
                    )
                )
            ),
            PlainMedia media => new PieceLook(
                "File",
                $"{(story.Files.TryGetValue(media.SourceId, out var file) ? file.FileName : "a file that is gone")}, "
                    + $"{media.Range.In.FromZero} to {media.Range.Out.FromZero}",
                "media-piece",
                length,
                string.Join(
                    ", ",
                    new[]
                    {
                        media.Level == 0 ? "" : Decibels(media) + " dB",
                        media.FadeIn > MediaTime.Zero || media.FadeOut > MediaTime.Zero ? "faded" : "",
                    }.Where(t => t.Length > 0)
                )
            ),
            _ => throw new ArgumentException("Cards of bites have a look of their own."),
        };
    }

    /// <summary>The form that changes a piece: its kind, what its text is called, its text, its length, and what that is called.</summary>
    public static (string Kind, string Says, string Text, string Length, string LengthSays) Form(Piece piece) =>
        piece switch
        {
            SectionHead head => ("section", "Name of the section", head.Name, Typed(head.Target), "Its target, or empty"),
            Space space => ("space", "What it waits for", space.WaitsFor, Typed(space.Length), "How long, as 0:06 or 6"),
            TitleCard title => ("title", "Words of the title", title.Words, Typed(title.Length), "How long, as 0:06 or 6"),
            Narration narration => (
                "narration",
                "Words of the narration",
                narration.Words,
                Typed(narration.Length),
                "How long; estimated where empty"
            ),
            _ => throw new ArgumentException("This piece has a form of its own."),
        };

    /// <summary>The level of plain media, in decibels.</summary>
    public static string Decibels(PlainMedia media) => FormattableString.Invariant($"{media.Level / 10m:0.#}").Replace('-', '−');

    private static string Typed(MediaTime length) => length == MediaTime.Zero ? "" : length.ToString();

    private static string Against(MediaTime target, MediaTime running) =>
        target == MediaTime.Zero ? ""
        : running <= target ? $"{target - running} left of {target}"
        : $"{running - target} over {target}";
}
