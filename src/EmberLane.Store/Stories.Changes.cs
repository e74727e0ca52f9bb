using System.Globalization;
using EmberLane.Core;
using EmberLane.Core.Stories;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <content>Stories changed, and changes taken back.</content>
public sealed partial class Stories
{
    /// <summary>
    /// Applies a person's edit, which was made on version <paramref name="version"/>. Where the story has a newer one the edit is laid onto
    /// that: its places are kept by the cards beside them. Throws <see cref="ConflictException"/> with who did what when somebody changed
    /// the same meanwhile, and <see cref="EditRefusedException"/> when the edit does not fit; either way nothing is changed.
    /// </summary>
    public StoredStory Apply(long id, long version, StoryEdit edit, string who) =>
        database.Write(c =>
        {
            var here = Here(c, id, who);
            return Apply(c, here, here.Version == version ? edit : Onto(c, here, version, edit, who), who);
        });

    /// <summary>
    /// Puts a story away, or brings it back; nothing of it is lost. It is in the log apart from the cards, so that undo in a story never
    /// takes the story itself away.
    /// </summary>
    public void PutAway(long id, bool away, string who) =>
        database.Write(c =>
        {
            if (Here(c, id, who) is var before && before.Story.IsAway != away)
            {
                Apply(c, before, new PutStoryAway(away), who, About.StoryShelf);
            }
        });

    /// <summary>
    /// As <see cref="Apply(long, long, StoryEdit, string)"/>, on whichever version there is: for what does not depend on the order of the
    /// cards.
    /// </summary>
    public StoredStory Apply(long id, StoryEdit edit, string who) => database.Write(c => Apply(c, Here(c, id, who), edit, who));

    /// <summary>
    /// Keeps bites and lays a card of each behind a piece, or at the end, in their order, with other takes, which are kept as bites too,
    /// and lines that are missing beside them; <paramref name="cutting"/> gives each its ends. All or nothing, and the cards are taken back
    /// in one step. Throws <see cref="EditRefusedException"/> when there is no bite, one does not fit, or the piece is gone.
    /// </summary>
    public StoredStory KeepAndLay(
        long id,
        Bites bites,
        IReadOnlyList<LaidTakes> laid,
        string who,
        Func<Card, Card>? cutting = null,
        Guid? behind = null
    ) =>
        database.Write(c =>
        {
            var before = Here(c, id, who);
            var at = before.Story.PlaceBehind(behind);
            var kept = laid.SelectMany(l => l.Others.Prepend(l.Best)).ToList();
            var ids = new Queue<long>(bites.Add(c, kept));
            var cards = laid.Select(l => new Card(Guid.NewGuid(), ids.Dequeue(), l.Best.SittingId, l.Best.Range, null)
            {
                OtherTakes = string.Join(' ', l.Others.Select(_ => ids.Dequeue().ToString(CultureInfo.InvariantCulture))),
                SpaceBefore = l.SpaceBefore,
                SpaceAfter = l.SpaceAfter,
            })
                .Select(card => cutting?.Invoke(card) ?? card);
            return Apply(c, before, new StoryTogether([.. cards.Select((card, i) => new LayCard(card, at + i))]), who);
        });

    /// <summary>
    /// Takes a person's newest change back, or brings the one that they last took back again; the story as it is when there is none. Throws
    /// <see cref="EditRefusedException"/> when somebody touched the same since, with who did.
    /// </summary>
    public StoredStory Step(long id, bool redo, string who) =>
        database.Write(c =>
        {
            var before = Here(c, id, who);
            if (ChangeLog.Next<Story, StoryEdit>(c, new About(About.StoryCards, id, before.ProductionId), redo, who) is not { } step)
            {
                return before;
            }
            ChangeLog.Made(c, step.Change.Id, redo);
            return Save(
                c,
                before,
                redo ? step.Edit.Within(before.Story) : Back(c, before, step),
                who,
                $"{(redo ? "brought again" : "taken back")}: {ChangeLog.SaidOf(c, step.Change.Id)}"
            );
        });

    /// <summary>
    /// Takes one change back alone, as a change of its own. Throws <see cref="EditRefusedException"/> when it is not in force, or somebody
    /// touched the same since.
    /// </summary>
    public StoredStory TakeBack(long id, long change, string who) =>
        database.Write(c =>
        {
            var before = Here(c, id, who);
            var log = ChangeLog.AggregateOf(c, change);
            var step = ChangeLog.One<Story, StoryEdit>(
                c,
                new About(log == About.StoryShelf ? log : About.StoryCards, id, before.ProductionId),
                change
            );
            return Apply(c, before, Back(c, before, step), who, log, change);
        });

    private StoredStory Apply(
        SqliteConnection c,
        StoredStory before,
        StoryEdit edit,
        string who,
        string log = About.StoryCards,
        long? takesBack = null
    )
    {
        var (_, inverse) = edit.Apply(before.Story);
        var said = StoryWords.Of(edit, before.Story, card => SaidIn(c, before.Id, card));
        ChangeLog.Append(
            c,
            new About(log, before.Id, before.ProductionId),
            who,
            clock.GetUtcNow(),
            edit,
            inverse,
            said,
            before.Version,
            takesBack
        );
        return Save(c, before, edit, who, said);
    }

    private static string SaidIn(SqliteConnection c, long story, Card card) =>
        c.Query(
                "SELECT COALESCE((SELECT said FROM card_reading WHERE story_id = $s AND card_id = $k), "
                    + "(SELECT said FROM bite_reading WHERE bite_id = $b), '')",
                r => r.GetString(0),
                ("$s", story),
                ("$k", card.Id.ToString()),
                ("$b", card.BiteId)
            )
            .Single();

    // The edit for the story as it is now, which was made on an older version of it.
    private static StoryEdit Onto(SqliteConnection c, StoredStory here, long version, StoryEdit edit, string who)
    {
        if (Since(c, here, version) is not { } steps)
        {
            throw new ConflictException(
                "The story was changed a great deal meanwhile. It is shown here as it is now; your last change was not made. Make it again "
                    + "if you still want it."
            );
        }
        if (steps.FirstOrDefault(s => !edit.IsBeside(s.Edit)) is { } clash)
        {
            throw new ConflictException(
                (
                    clash.Head.Who == who
                        ? "You changed the same in another window meanwhile"
                        : $"{clash.Head.Who} changed the same meanwhile"
                )
                    + $" ({clash.Head.Said}). The story is shown as it is now; your last change was not made. "
                    + "Make it again if you still want it."
            );
        }
        return edit.Onto(Before(here.Story, steps), here.Story).Within(here.Story);
    }

    // What takes a change back, for the story as it is now: where others changed it since, places go by the cards beside them.
    private static StoryEdit Back(SqliteConnection c, StoredStory here, LogStep<StoryEdit> step)
    {
        var version = ChangeLog.VersionOf(c, step.Change.Id) + 1;
        return
            version == here.Version
            || !ChangeLog.HasLater(c, step.Change.Id)
            || Since(c, here, version) is not { } steps
            || step.Edit is PutStoryAway
            ? step.Edit.Within(here.Story)
            : step.Edit.Onto(Before(here.Story, steps), here.Story).Within(here.Story);
    }

    private static StoredStory Here(SqliteConnection c, long id, string who) =>
        StoryRows.Get(c, id, who) ?? throw new EditRefusedException("That story does not exist.");

    // Writes the story down, with the step that was made.
    private StoredStory Save(SqliteConnection c, StoredStory before, StoryEdit edit, string who, string said)
    {
        var (story, inverse) = edit.Apply(before.Story);
        var there = before.Story.Cards.Select(k => k.BiteId).ToHashSet();
        if (
            story.Cards.FirstOrDefault(k =>
                !there.Contains(k.BiteId)
                && c.Query("SELECT 1 FROM bite WHERE id = $b AND gone = 0", r => r.GetInt64(0), ("$b", k.BiteId)).Count == 0
            )
            is not null
        )
        {
            throw new EditRefusedException("The bite of this card is not kept any more. Keep it again first.");
        }
        StoryRows.Save(c, transcripts, before, story);
        WriteDown(c, before, new StoryStep(new StepHead(before.Version + 1, clock.GetUtcNow(), who, said), edit, inverse));
        var about = new About(About.StoryCards, before.Id, before.ProductionId);
        return before with
        {
            Version = before.Version + 1,
            Story = story,
            CanUndo = ChangeLog.Has(c, about, redo: false, who),
            CanRedo = ChangeLog.Has(c, about, redo: true, who),
        };
    }
}
