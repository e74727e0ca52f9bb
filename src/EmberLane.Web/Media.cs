using EmberLane.Application.Gathering;
using EmberLane.Application.Rooms;
using EmberLane.Core.People;
using EmberLane.Core.Stories;
using EmberLane.Engines;
using EmberLane.Store;
using EmberLane.Web.Access;

namespace EmberLane.Web;

/// <summary>
/// What the browser plays and shows of sources: only files that the store names, by id, and that are still what they were.
/// </summary>
internal static class Media
{
    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapGet(
            "/media/{id:long}/play",
            (long id, HttpContext context, Footage footage, ShownMedia shown) =>
                footage.Source(id) is not { } source ? Results.NotFound()
                : MayListen(context, source.ProductionId) ? Sent(shown.Plain(source), "video/mp4")
                : MayBeShown(context, source.ProductionId, source.SittingId) ? Sent(shown.Picture(source), "video/mp4")
                : Results.NotFound()
        );
        app.MapGet(
            "/media/sitting/{id:long}/sound",
            (long id, HttpContext context, Footage footage, SittingMics mics, MediaCache cache, ShownMedia shown) =>
                footage.Sitting(id) is not { } sitting ? Results.NotFound()
                : MayListen(context, sitting.ProductionId) ? Made(cache, cache.SittingSound(mics.Of(sitting).Key), "video/mp4")
                : MayBeShown(context, sitting.ProductionId, sitting.Id) ? Sent(shown.Sound(sitting), "video/mp4")
                : Results.NotFound()
        );
        app.MapGet(
            "/media/{id:long}/thumbnail",
            (long id, HttpContext context, Footage footage, MediaCache cache) =>
                footage.Source(id) is { } source && MayRead(context, source.ProductionId)
                    ? Made(cache, cache.Thumbnail(source), "image/jpeg")
                    : Results.NotFound()
        );
        app.MapGet(
            "/media/{id:long}/shot/{number:int}",
            (long id, int number, HttpContext context, Footage footage, MediaCache cache) =>
                footage.Source(id) is { } source && MayRead(context, source.ProductionId)
                    ? Made(cache, cache.ShotPicture(source, number), "image/jpeg")
                    : Results.NotFound()
        );
        app.MapGet("/media/narration/{story:long}/{piece:guid}", NarrationAsync);
    }

    private static async Task<IResult> NarrationAsync(
        long story,
        Guid piece,
        HttpContext context,
        Store.Stories stories,
        Desk desk,
        ScratchVoices voices,
        CancellationToken cancel
    )
    {
        if (
            stories.Get(story, "") is not { } stored
            || !MayListen(context, stored.ProductionId)
            || stored.Story.Pieces.FirstOrDefault(p => p.Id == piece) is not Narration narration
            || !voices.IsWanted(stored.ProductionId)
        )
        {
            return Results.NotFound();
        }
        try
        {
            return Sent(await voices.FileAsync(narration, desk.WordsAMinute(stored.ProductionId), cancel), "audio/wav");
        }
        catch (Exception failed) when (failed is ToolException or IOException)
        {
            return Results.Problem(failed.Message, statusCode: StatusCodes.Status503ServiceUnavailable);
        }
    }

    private static bool MayListen(HttpContext context, long production) =>
        Visitor.Of(context) is { } visitor && visitor.In(production).HasFlag(Rights.Listen);

    // By a link that shows the sitting: what was made for that, without what is off the record.
    private static bool MayBeShown(HttpContext context, long production, long? sitting) =>
        sitting is { } id
        && Visitor.Of(context) is { } visitor
        && visitor.Shown(production, LinkScope.OfSitting(id)).HasFlag(Rights.Listen);

    // Small still pictures stand beside what is read.
    private static bool MayRead(HttpContext context, long production) =>
        Visitor.Of(context) is { } visitor && visitor.In(production).HasFlag(Rights.Read);

    private static IResult Made(MediaCache cache, string path, string type) => Sent(cache.IsWhole(path) ? path : null, type);

    private static IResult Sent(string? path, string type) =>
        path is null ? Results.NotFound() : Results.File(path, type, enableRangeProcessing: true);
}
