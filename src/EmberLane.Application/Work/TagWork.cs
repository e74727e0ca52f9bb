using EmberLane.Application.Gathering;
using EmberLane.Engines;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>Has the chosen tagger say what the shots of a source show, by one picture of each.</summary>
internal sealed class TagWork(Footage footage, Shots shots, MediaCache cache, Taggers taggers) : IWork
{
    public string Kind => WorkKinds.Tag;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var source = footage.Source(job.SubjectId) ?? throw new InvalidOperationException("The file is no longer in the production.");
        var choice = taggers.Chosen;
        if (choice.Tagger.WhyNot() is { } reason)
        {
            throw new ToolException(reason);
        }
        var all = shots.OfSource(source.Id);
        var tags = 0;
        for (var i = 0; i < all.Count; i++)
        {
            progress(PerMille.Of(i, all.Count), "");
            var picture = cache.ShotPicture(source, all[i].Name.Number);
            if (!cache.IsWhole(picture))
            {
                throw new ToolException($"There is no picture of {source.Name} yet. Wait until it was looked at, and ask again.");
            }
            var said = await choice.Tagger.TagAsync(picture, cancel);
            shots.SaveTags(all[i].Name, choice.Key, said);
            tags += said.Count;
        }
        return Rooms.Many.Of(tags, "tag");
    }
}
