using EmberLane.Application.Work;
using EmberLane.Core.Copies;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>The copies of stories that are played to who comes by a link: one file, so that no more than the story leaves.</summary>
public sealed class ShownStories(Copies copies, CopyDesk desk, Desk rooms, OffTheRecord held, Store.Stories stories, Jobs jobs)
{
    /// <summary>So many older ones stay, for pages that still play them.</summary>
    private const int Older = 1;

    private static readonly CopyWish Wish = new()
    {
        Form = CopyForm.Video,
        IsLabelled = false,
        IsForLinks = true,
    };

    /// <summary>The newest that is made of a story and holds nothing that is off the record; null where there is none.</summary>
    public StoredCopy? Newest(StoredStory story)
    {
        var made = Of(story.ProductionId, story.Id).Where(desk.IsThere).ToList();
        var withdrawn = held.Withdrawn(story.ProductionId, made);
        return made.FirstOrDefault(c => !withdrawn.Contains(c.Id));
    }

    /// <summary>One of them, by number; null where it is none of this story's, or holds what is off the record.</summary>
    public StoredCopy? Get(long production, long story, long id) =>
        Of(production, story).FirstOrDefault(c => c.Id == id && desk.IsThere(c)) is { } copy
        && held.Withdrawn(production, [copy]).Count == 0
            ? copy
            : null;

    /// <summary>The work on a copy of a story as it stands now, newest first; null where none was asked for.</summary>
    public Job? Making(StoredStory story) =>
        Of(story.ProductionId, story.Id).FirstOrDefault(c => c.Version == story.Version) is { } copy
            ? jobs.Newest(WorkKinds.Copy, copy.Id)
            : null;

    /// <summary>
    /// Has a copy made of a story as it stands, unless one is made or being made. Throws <see cref="Core.EditRefusedException"/> where a
    /// production has too many.
    /// </summary>
    public void Ask(StoredStory story, string who)
    {
        if (Making(story) is { IsOpen: true } || Newest(story)?.Version == story.Version)
        {
            return;
        }
        var id = copies.Add(story.ProductionId, story.Id, story.Version, $"{story.Title}, for links", Wish, who);
        jobs.Add(story.ProductionId, WorkKinds.Copy, id, $"Copy of {story.Title} for links");
    }

    /// <summary>Lets go of those that a newer one of the same story took the place of.</summary>
    public void KeepNewest(StoredCopy made)
    {
        foreach (var older in Of(made.ProductionId, made.StoryId).Where(c => c.Id < made.Id).Skip(Older))
        {
            copies.Remove(made.ProductionId, older.Id);
            File.Delete(desk.FileOf(older));
        }
    }

    /// <summary>
    /// The pieces of a story that a copy plays, with the frames at which they begin in it: those that are in both as they are. What it was
    /// made of may be kept no more; then none.
    /// </summary>
    public IReadOnlyDictionary<Guid, long> FirstFrames(StoredCopy copy, StoredStory story)
    {
        if ((copy.Version == story.Version ? story.Story : stories.At(story.Id, copy.Version)) is not { } then)
        {
            return new Dictionary<Guid, long>();
        }
        var rate = then.Start.Count.Rate;
        var (played, now) = (rooms.CutOf(story.ProductionId, then), rooms.CutOf(story));
        var same = story.Story.Pieces.ToDictionary(p => p.Id);
        var firsts = new Dictionary<Guid, long>();
        long first = 0;
        foreach (var piece in then.Pieces)
        {
            var frames = played.Frames(piece, rate);
            if (same.TryGetValue(piece.Id, out var own) && own == piece && now.Frames(own, story.Start.Count.Rate) == frames)
            {
                firsts[piece.Id] = first;
            }
            first += frames;
        }
        return firsts;
    }

    private IEnumerable<StoredCopy> Of(long production, long story) =>
        copies.Of(production).Where(c => c.StoryId == story && c.Wish.IsForLinks);
}
