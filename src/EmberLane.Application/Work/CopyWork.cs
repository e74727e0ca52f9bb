using System.Globalization;
using EmberLane.Application.Rooms;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>Makes a copy of a story to hear or see, of the version that was asked for.</summary>
internal sealed class CopyWork(Copies copies, Productions productions, Store.Stories stories, CopyDesk desk, ShownStories shown) : IWork
{
    public string Kind => WorkKinds.Copy;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var copy = copies.Get(job.SubjectId) ?? throw new InvalidOperationException("The copy was taken away.");
        if (desk.IsThere(copy))
        {
            return "";
        }
        var production = productions.All().Single(p => p.Id == copy.ProductionId);
        var story = stories.Get(copy.StoryId, "") ?? throw new InvalidOperationException("The story is no longer in the production.");
        var then =
            stories.At(copy.StoryId, copy.Version)
            ?? throw new InvalidOperationException("That version of the story is not kept any more. Ask for a copy of it as it is now.");
        var speed = new Dictionary<string, Speed>();
        var made = await desk.MakeAsync(
            production,
            story with
            {
                Story = then,
                Version = copy.Version,
            },
            copy.Wish,
            desk.FileOf(copy),
            (says, at, whole) =>
            {
                if (!speed.TryGetValue(says, out var pace))
                {
                    speed[says] = pace = new Speed();
                }
                var left = at > MediaTime.Zero ? pace.Words(at, whole) : "";
                progress(Speed.Done(at, whole), left.Length > 0 ? $"{says}: {left}" : says);
            },
            cancel
        );
        if (copies.Get(copy.Id) is null)
        {
            // Taken away while it was made.
            File.Delete(desk.FileOf(copy));
            return "";
        }
        copies.Made(
            copy.Id,
            new FileInfo(desk.FileOf(copy)).Length,
            made.Loudness is { } loud ? (int)Math.Round(10 * loud) : null,
            made.Parts
        );
        if (copy.Wish.IsForLinks)
        {
            shown.KeepNewest(copy);
        }
        return made.Loudness is { } loudness ? string.Create(CultureInfo.InvariantCulture, $"{loudness:0.0} LUFS").Replace('-', '−') : "";
    }
}
