using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>Takes single changes of a production back, whatever they are about.</summary>
public sealed class ProductionChanges(
    Changes changes,
    Store.Transcripts transcripts,
    Texts texts,
    Grouping grouping,
    Footage footage,
    Store.Bites bites,
    Store.Stories stories,
    Productions productions,
    Store.Cameras cameras,
    Store.Captions captions,
    Upkeep upkeep,
    News news
)
{
    /// <summary>
    /// Takes one change back alone, and tells those who show it, as a change of <paramref name="who"/>, wherever it stands in the log; what
    /// it was, in words. Throws <see cref="EditRefusedException"/> when it is not in force, or somebody touched the same since, with who
    /// did.
    /// </summary>
    public string TakeBack(long productionId, long change, string who)
    {
        var listed = changes.Get(productionId, change) ?? throw new EditRefusedException("That change is not one of this production.");
        switch (listed.Thing)
        {
            case ChangedThing.Words:
                transcripts.TakeBack(listed.SubjectId, change, who);
                break;
            case ChangedThing.Text:
                texts.TakeBack(listed.SubjectId, change, who);
                break;
            case ChangedThing.Gather:
                grouping.TakeBack(productionId, change, who);
                break;
            case ChangedThing.Place:
                footage.TakePlacingBack(listed.SubjectId, change, who);
                break;
            case ChangedThing.Cameras:
                cameras.TakeBack(listed.SubjectId, change, who);
                break;
            case ChangedThing.Captions:
                captions.TakeBack(listed.SubjectId, change, who);
                break;
            case ChangedThing.Bite:
                bites.TakeBack(productionId, change, who);
                break;
            case ChangedThing.Story or ChangedThing.StoryItself:
                stories.TakeBack(listed.SubjectId, change, who);
                break;
            default:
                productions.TakeBack(productionId, change, who);
                break;
        }
        upkeep.Ask(productionId);
        news.Tell(new NewsItem(About(listed.Thing), productionId, who));
        return listed.Said;
    }

    private static NewsOf About(ChangedThing thing) =>
        thing switch
        {
            ChangedThing.Words or ChangedThing.Text => NewsOf.Words,
            ChangedThing.Gather or ChangedThing.Place => NewsOf.Gather,
            ChangedThing.Bite => NewsOf.Bites,
            ChangedThing.Cameras => NewsOf.Cameras,
            ChangedThing.Captions => NewsOf.Captions,
            ChangedThing.Story or ChangedThing.StoryItself => NewsOf.Story,
            _ => NewsOf.Production,
        };
}
