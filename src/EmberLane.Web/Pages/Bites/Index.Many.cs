using System.Globalization;
using EmberLane.Application.Rooms;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Stories;
using EmberLane.Store;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Bites;

/// <content>Ticked bites changed at once.</content>
public sealed partial class IndexModel
{
    /// <summary>So many bites are changed at once at most.</summary>
    private const int MostAtOnce = 5_000;

    /// <summary>
    /// Changes all ticked bites, whose ids have blanks between, in one change: <paramref name="what"/> is <c>theme</c>, <c>no-theme</c>,
    /// <c>grade</c>, <c>aside</c>,
    /// <c>lay</c> or <c>merge</c>; <paramref name="value"/> the theme or the grade.
    /// </summary>
    public IActionResult OnPostMany(string? ticks, string? what, string? value)
    {
        // One field: a form takes a thousand at most.
        var parts = (ticks ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries);
        List<long> tick =
        [
            .. parts
                .Take(MostAtOnce + 1)
                .Select(p => long.TryParse(p, NumberStyles.None, CultureInfo.InvariantCulture, out var id) ? id : 0),
        ];
        if (tick.Count is 0 or > MostAtOnce)
        {
            return Refused(FormattableString.Invariant($"Tick the bites first, at most {MostAtOnce} of them."));
        }
        // Those of other productions are not this page's.
        var here = bites.Of(tick).Where(b => SittingHere(b.SittingId) is not null).Select(b => b.Id).ToHashSet();
        if (!tick.All(here.Contains))
        {
            return NotFound();
        }
        var clean = TypedText.OneLine(value ?? "");
        var ticked = Many.Of(here.Count, "bite");
        return what switch
        {
            "theme" or "no-theme" when clean.Length == 0 => Refused("Type the theme first."),
            "theme" => All(here, b => b with { Theme = BiteThemes.With(b.Theme, clean) }, $"{ticked}: theme “{clean}”."),
            "no-theme" => All(here, b => b with { Theme = BiteThemes.Without(b.Theme, clean) }, $"{ticked}: without “{clean}”."),
            "grade" when int.TryParse(clean, out var grade) => All(
                here,
                b => b with { Grade = grade },
                $"{ticked}: {BiteGrade.Word(grade)}."
            ),
            "aside" => All(here, b => b with { Aside = true }, $"{ticked} set aside."),
            "merge" => Told(() => bites.Merge(here, Who), $"{ticked} are one now."),
            "lay" => Told(() => LayAll(here), $"{ticked} at the story’s end, in their order.", NewsOf.Story),
            _ => Refused("The request does not say what to do with them. Load the page again and repeat it."),
        };
    }

    private IActionResult All(HashSet<long> ids, Func<BiteState, BiteState> change, string done) =>
        Told(() => bites.Change(ids, (_, b) => change(b), Who), done);

    private IActionResult Told(Action change, string done, NewsOf about = NewsOf.Bites)
    {
        Done = done;
        return Changed(change, about);
    }

    private void LayAll(HashSet<long> ids)
    {
        var story = Desk.StoryToChange(Production, Who);
        var laid = story.Story.Cards.Select(c => c.BiteId).ToHashSet();
        var some = bites.Of(ids).Where(b => !laid.Contains(b.Id)).OrderBy(b => b.SittingId).ThenBy(b => b.Range.In).ToList();
        if (some.Count == 0)
        {
            throw new EditRefusedException("All of them are in the story already.");
        }
        table.Lay(story, some, null, Who);
    }
}
