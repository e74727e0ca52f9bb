using EmberLane.Application.Rooms;
using EmberLane.Core.Handoff;
using EmberLane.Core.Stories;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using EmberLane.Web.Rooms.Drawn;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Story;

/// <content>The story as it is drawn, and answers that hold only what is not as the page shows it.</content>
public sealed partial class IndexModel
{
    /// <summary>The lines of the story in order.</summary>
    public IReadOnlyList<DrawnLine> Drawn { get; private set; } = [];

    /// <summary>The seam before the first card; null where nothing is to be said of it.</summary>
    public DrawnSeam? FirstSeam { get; private set; }

    /// <summary>By what name this drawing is known when the page asks again.</summary>
    public string DrawnAs { get; private set; } = "";

    /// <summary>What is not as the page shows it; null where all of it is sent.</summary>
    public DrawnChanges? Changes { get; private set; }

    /// <summary>The parts beside the lines that are sent with them: the shelf only where it is not as the page shows it.</summary>
    public IEnumerable<string> Parts => Changes is { IsShelfAnew: true } ? [.. AlwaysSent, "shelf"] : AlwaysSent;

    private static IReadOnlyList<string> AlwaysSent { get; } = ["state", "figures", "actions", "ruler", "left", "empty", "shares"];

    /// <summary>What lasts in order: whose it is most, as a class, and its frames.</summary>
    public IEnumerable<(string Mark, long Frames)> Lasting =>
        Stored
            .Story.Pieces.Where(p => p is not SectionHead)
            .Select(p => (Shown.TryGetValue(p.Id, out var shown) ? shown.Mark.CssClass : "ruler-other", Cut.Frames(p, Rate)));

    // The answer to a page: what is not as it shows it, where that is known and is not most of it; else all.
    private PartialViewResult Answer()
    {
        var shown = drawings.Find(Sent("drawn"));
        if (Message is null && shown is not null && shown.Story == Stored.Id && LastDrawing.Since(shown) is var since)
        {
            if (since.Count <= Math.Max(20, Drawn.Count / 3))
            {
                Changes = since;
                Response.Headers["HX-Reswap"] = "none";
                Response.Headers["Ember-Drawn-On"] = Sent("drawn");
            }
        }
        return Partial("_Story", this);
    }

    // What the page sends of its state, in the form or in the address.
    private string? Sent(string name) => Request.HasFormContentType && Request.Form[name] is [{ } text, ..] ? text : Request.Query[name];

    private DrawnStory LastDrawing { get; set; } = null!;

    private void Draw()
    {
        var sittings = seams.At();
        Drawn =
        [
            .. Stored.Story.Pieces.Select(p => new DrawnLine(
                (p is Card card ? (DrawnPiece)DrawnCardOf(card, sittings) : DrawnOtherOf(p)) with
                {
                    ComesIn = ComingIn(p),
                },
                SeamAfter.TryGetValue(p.Id, out var seam) ? DrawnSeamOf(seam) : null,
                Folded.Contains(p.Id)
            )),
        ];
        FirstSeam = SeamAfter.TryGetValue(Guid.Empty, out var first) && first.Score > 0 ? DrawnSeamOf(first) : null;
        LastDrawing = new DrawnStory(
            Stored.Id,
            Drawn,
            string.Join('\n', Unused.Select(u => $"{u.Bite.Id} {u.Said} {u.Speaker} {u.Mark} {u.Bite.Theme} {u.Length}"))
                + FormattableString.Invariant($"\n{ShownUpTo} {UnusedCount}")
        );
        DrawnAs = drawings.Keep(LastDrawing);
    }

    private DrawnSeam DrawnSeamOf(Core.Seams.StorySeam seam) =>
        new(seam.Card, seam.Score, SeamLook.Of(seam, ById), Open?.Seam.Card == seam.Card ? Open : null);

    private DrawnOther DrawnOtherOf(Piece piece) =>
        new(
            piece.Id,
            PlayOf(piece),
            PieceLook.Of(piece, this),
            piece is SectionHead head ? new DrawnSection(head.IsFolded, Sections[head.Id].Cards) : null
        );

    private DrawnCard DrawnCardOf(Card card, SeamSittings sittings)
    {
        var shown = Shown[card.Id];
        var angle = card.Angle is { } chosen
            ? Sittings[card.SittingId].Angles.FirstOrDefault(a => a.Place is not null && a.Id == chosen)
            : null;
        return new DrawnCard(card.Id, PlayOf(card))
        {
            From = (shown.Sitting.ProductionId, card.SittingId),
            Elsewhere = shown.Sitting.ProductionId == Production.Id ? "" : footage.Production(shown.Sitting.ProductionId)?.Name ?? "",
            FirstWord = shown.Reading.FirstWord,
            Range = (card.Range.In.FromZero.ToSecondsText(), card.Range.Out.FromZero.ToSecondsText()),
            Mark = shown.Mark,
            Voices = new Alike<SpeakerMark>([.. shown.Voices.Select(v => v.Mark)]),
            Speaker = shown.Speaker,
            Said = shown.Said,
            Theme = shown.Bite.Theme,
            IsBiteAside = shown.Bite.IsAside,
            Instead = ShownInstead(card),
            Over = card.Over is { } over
                ? $"{(Files.TryGetValue(over.SourceId, out var file) ? file.FileName : "a file that is gone")}, {over.Range.Length}"
                    + (over.After > MediaTime.Zero ? $", {over.After} after its begin" : "")
                : "",
            Space = (card.SpaceBefore, card.SpaceAfter),
            Inside = new Alike<string>([
                .. seams.Inside(card, shown.Reading, Cut, sittings).Select(s => $"at {s.At}: {string.Join(" · ", s.Seam.Reasons)}"),
            ]),
            Length = Rate.TimeOf(Cut.Frames(card, Rate)).ToString(),
            OtherTakes = card.OtherTakes.Split(' ', StringSplitOptions.RemoveEmptyEntries).Length,
            Angle = angle is null ? "" : System.IO.Path.GetFileNameWithoutExtension(angle.FileName),
        };
    }

    // What is shown where the chosen angle does not roll; empty when it does.
    private string ShownInstead(Card card) =>
        string.Join(
            ", ",
            Conform
                .ShownInstead(card, Cut.Of(card), Sittings[card.SittingId], Stored.Start.Count)
                .Select(System.IO.Path.GetFileNameWithoutExtension)
        );
}
