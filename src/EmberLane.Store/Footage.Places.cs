using EmberLane.Core.Sync;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <content>Where sources lie on their sitting's clock: by sync, and by people, whose changes are in the sitting's log.</content>
public sealed partial class Footage
{
    /// <summary>
    /// Places a source by what sync found, or takes it off when that is nowhere. What a person placed stays as it is, and so does a source
    /// that no longer belongs to <paramref name="sittingId"/>, when that is given: the place is on that sitting's clock.
    /// </summary>
    public void Place(long sourceId, Placement placement, long? sittingId = null) =>
        database.Write(c =>
        {
            if (
                c.Query(
                    "SELECT 1 FROM source WHERE id = $id AND by_hand = 0 AND ($sitting IS NULL OR sitting_id = $sitting)",
                    r => r.GetInt64(0),
                    ("$id", sourceId),
                    ("$sitting", sittingId)
                ).Count > 0
            )
            {
                SavePlacement(c, sourceId, placement);
            }
        });

    /// <summary>
    /// Changes a source's placement as a person asks, in the log of its sitting. <paramref name="change"/> gets the placement as it is and
    /// may throw <see cref="Core.EditRefusedException"/>; then nothing changes. Returns false when the source belongs to no sitting.
    /// </summary>
    public bool PlaceByHand(long sourceId, Func<Placement, Placement> change, string who) =>
        database.Write(c =>
        {
            if (OneSource(c, sourceId) is not { SittingId: { } sitting } source)
            {
                return false;
            }
            Placed(c, sitting, source, new PlaceSource(sourceId, change(source.Placement)), who);
            return true;
        });

    /// <summary>
    /// Takes a person's newest change of a placement in a sitting back, or brings the one that they last took back again; returns the
    /// source's id, or null when there is none. Throws <see cref="Core.EditRefusedException"/> when it was placed anew since, with who did.
    /// </summary>
    public long? StepPlacing(long sittingId, bool redo, string who) =>
        database.Write<long?>(c =>
        {
            var about = About.Sitting(c, About.Places, sittingId);
            while (ChangeLog.Next<Placement, PlaceSource>(c, about, redo, who) is { } step)
            {
                if (OneSource(c, step.Edit.Source) is { } source && source.SittingId == sittingId)
                {
                    RefuseMoved(source, step);
                    ChangeLog.Made(c, step.Change.Id, redo);
                    SavePlacement(c, step.Edit.Source, step.Edit.To);
                    return step.Edit.Source;
                }
                // The file lies in another sitting by now, on another clock: what was done to it here is past.
                ChangeLog.PassOver(c, step.Change.Id);
            }
            return null;
        });

    /// <summary>
    /// Takes one change of a placement back alone, as a change of its own; refused as <see cref="StepPlacing"/> is, and where the file lies
    /// in another sitting by now.
    /// </summary>
    public void TakePlacingBack(long sittingId, long change, string who) =>
        database.Write(c =>
        {
            var step = ChangeLog.One<Placement, PlaceSource>(c, About.Sitting(c, About.Places, sittingId), change);
            if (OneSource(c, step.Edit.Source) is not { } source || source.SittingId != sittingId)
            {
                throw new Core.EditRefusedException("The file lies in another sitting by now, on another clock.");
            }
            RefuseMoved(source, step);
            Placed(c, sittingId, source, step.Edit, who, change);
        });

    private void Placed(SqliteConnection c, long sitting, Source source, PlaceSource edit, string who, long? takesBack = null)
    {
        var (_, inverse) = edit.Apply(source.Placement);
        ChangeLog.Append(
            c,
            About.Sitting(c, About.Places, sitting),
            who,
            clock.GetUtcNow(),
            edit,
            inverse,
            edit.To.ByHand
                ? $"{source.Name}: {edit.To.Evidence}{(edit.To.Place is { } at ? $", from {at.Start}" : "")}"
                : $"{source.Name} given back to sync",
            takesBack: takesBack
        );
        SavePlacement(c, edit.Source, edit.To);
    }

    // Sync places what a person gave back to it, and that stands in no log.
    private static void RefuseMoved(Source source, LogStep<PlaceSource> step)
    {
        if (source.Placement != step.Opposite.To)
        {
            throw new Core.EditRefusedException(ChangeLog.TouchedSince("sync"));
        }
    }

    internal static void SavePlacement(SqliteConnection c, long source, Placement placement) =>
        c.Execute(
            "UPDATE source SET start = $start, drift = $drift, basis = $basis, evidence = $why, by_hand = $hand WHERE id = $id",
            ("$start", placement.Place?.Start.FromZero.Units),
            ("$drift", placement.Place?.DriftPerBillion),
            ("$basis", (int)placement.Basis),
            ("$why", placement.Evidence),
            ("$hand", placement.ByHand ? 1 : 0),
            ("$id", source)
        );
}
