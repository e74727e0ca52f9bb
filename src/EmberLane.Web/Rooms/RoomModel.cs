using EmberLane.Application.Work;
using EmberLane.Core.People;
using EmberLane.Store;
using EmberLane.Web.Access;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EmberLane.Web.Rooms;

/// <summary>What every room of a production has. The route names the production; one that does not exist answers 404.</summary>
public abstract class RoomModel(Footage footage, Desk desk) : PageModel
{
    /// <summary>Who changes something here: the name of the person at this browser.</summary>
    public string Who => Person.Of(Request);

    public Production Production { get; private set; } = null!;

    public Desk Desk => desk;

    public abstract string Room { get; }

    /// <summary>Which commands the page has: one of <see cref="CommandPlaces"/>.</summary>
    public virtual string CommandPlace => CommandPlaces.Everywhere;

    /// <summary>A sentence that the page shows once: what went wrong, or what was done.</summary>
    public string? Message { get; protected set; }

    public bool IsFragment => Request.Headers.ContainsKey("HX-Request");

    public override void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        var id = RouteData.Values["production"] is string text && long.TryParse(text, out var number) ? number : 0;
        if (footage.Production(id) is { } production)
        {
            Production = production;
        }
        else
        {
            context.Result = NotFound();
        }
    }

    /// <summary>
    /// The one way for a page to change something: makes the change, tells those who show such things once this answer is on its way, and
    /// returns null, or why it was refused.
    /// </summary>
    protected string? Try(NewsOf about, Action change) =>
        desk.Changes.Make(
            Production.Id,
            about,
            Who,
            change,
            item =>
                Response.OnCompleted(() =>
                {
                    desk.Changes.Tell(item);
                    return Task.CompletedTask;
                })
        );

    /// <summary>Whether who asks may read a production: this one and others that things are taken from.</summary>
    protected bool MayRead(long production) => Visitor.Of(HttpContext) is { } visitor && visitor.In(production).HasFlag(Rights.Read);

    /// <summary>The sitting when it belongs to this production.</summary>
    protected Sitting? SittingHere(long id) => footage.Sitting(id) is { } sitting && sitting.ProductionId == Production.Id ? sitting : null;

    /// <summary>
    /// A message in place of what was asked for, with the status that fits; shown by the page that asked. Nothing was changed.
    /// </summary>
    protected ContentResult Refused(string message, int status = StatusCodes.Status409Conflict) =>
        new()
        {
            Content = message,
            ContentType = "text/plain; charset=utf-8",
            StatusCode = status,
        };
}
