using System.Globalization;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Import;
using EmberLane.Core.People;
using EmberLane.Core.Stories;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Cutaways;

/// <content>A shot's picture laid over a card of the story in hand.</content>
public sealed partial class IndexModel
{
    /// <summary>
    /// Lays the open shot, or from one second of its file to another, over the card that it is looked for; it comes so long after the card
    /// begins.
    /// </summary>
    [Needs(Rights.Order)]
    public IActionResult OnPostOver(decimal? from, decimal? to, string? after)
    {
        Load();
        if (Over is not { } card || Open is not { } open)
        {
            return NotFound();
        }
        if (!ModelState.IsValid)
        {
            return Refused("Those seconds are none. Choose the best seconds of the shot, or all of it.");
        }
        var whole = open.Shot.Facts.Range;
        var refused = Try(
            NewsOf.Story,
            () =>
            {
                var range = new SourceRange(Within(from) ?? whole.In, Within(to) ?? whole.Out);
                stories.Apply(
                    Desk.StoryToChange(Production, Who).Id,
                    new LayOver(card, new OverPicture(open.Source.Id, range, After(after))),
                    Who
                );
            }
        );
        if (refused is not null)
        {
            return Refused(refused);
        }
        var address = FormattableString.Invariant($"/productions/{Production.Id}/story#card-{card}");
        if (!IsFragment)
        {
            return Redirect(address);
        }
        Response.Headers["HX-Redirect"] = address;
        return new EmptyResult();

        SourceTime? Within(decimal? seconds) =>
            seconds is not { } at ? null
            : new SourceTime(MediaTime.FromSecondsRounded(Math.Clamp(at, 0, 1_000_000))) is var time
            && time >= whole.In
            && time <= whole.Out
                ? time
            : throw new EditRefusedException("Those seconds are not of this shot.");
    }

    private static MediaTime After(string? text) =>
        string.IsNullOrWhiteSpace(text) ? MediaTime.Zero
        : ClockText.Read(text) is { } time ? time
        : decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var seconds) && seconds < 86_400
            ? MediaTime.FromSecondsRounded(seconds)
        : throw new EditRefusedException($"“{text}” is no time. Type how long after the card begins the picture comes, as 0:02 or 2.");

    private void LoadOver()
    {
        if (Over is not { } card)
        {
            return;
        }
        var story = Desk.StoryOf(Production, Who);
        OverSays = story.Story.Cards.Any(c => c.Id == card) ? stories.ReadingsOf(story.Id).GetValueOrDefault(card)?.Said : null;
    }
}
