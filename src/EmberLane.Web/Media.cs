using EmberLane.Store;
using EmberLane.Web.Gathering;

namespace EmberLane.Web;

/// <summary>What the browser plays and shows of sources: only files that the store names, by id.</summary>
internal static class Media
{
    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapGet("/media/{id:long}/play", (long id, Footage footage, MediaCache cache) =>
            footage.Source(id) is { } source && cache.IsPlayable(source)
                ? Results.File(source.Facts.PlaysAsItIs ? source.Path : cache.Playing(source), "video/mp4", enableRangeProcessing: true)
                : Results.NotFound());
        app.MapGet("/media/sitting/{id:long}/sound", (long id, Footage footage, SittingMics mics, MediaCache cache) =>
            footage.Sitting(id) is { } sitting && cache.SittingSound(mics.Of(sitting).Key) is var path && File.Exists(path) ? Results.File(path, "video/mp4", enableRangeProcessing: true) : Results.NotFound());
        app.MapGet("/media/{id:long}/thumbnail", (long id, Footage footage, MediaCache cache) =>
            footage.Source(id) is { } source && File.Exists(cache.Thumbnail(source)) ? Results.File(cache.Thumbnail(source), "image/jpeg") : Results.NotFound());
    }
}
