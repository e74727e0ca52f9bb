using System.Globalization;
using System.Text.Json;
using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Cameras;
using EmberLane.Core.People;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;
using CameraEdit = EmberLane.Core.Edits.ChoiceEdit<EmberLane.Core.Cameras.CameraSetup>;

namespace EmberLane.Web.Pages.Cameras;

/// <summary>Cameras: which angle of a sitting shows when, by who speaks and by what people chose; and which mics are open.</summary>
[Needs(Rights.Order | Rights.Log)]
public sealed class IndexModel(
    Footage footage,
    Desk desk,
    CameraDesk planner,
    Store.Cameras cameras,
    SittingMics sittingMics,
    MediaCache cache,
    Jobs jobs,
    Store.Changes changes
) : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

    public override string Room => "Gather";

    /// <inheritdoc/>
    public override string CommandPlace => CommandPlaces.Cameras;

    public Sitting Sitting { get; private set; } = null!;

    public PlayedSitting Played { get; private set; } = new([], null);

    public SittingCameras Plan { get; private set; } = null!;

    public CameraStave Stave { get; private set; } = null!;

    /// <summary>The newest change that the page shows: news of older ones is none.</summary>
    public long Seen { get; private set; }

    /// <summary>Of the first angle, for stepping; not exact.</summary>
    public string FramesASecond { get; private set; } = "25";

    /// <summary>
    /// What the page's script plays: each shot's camera by its number from 1, its seconds in and out, why it begins, and what of the
    /// picture is seen, where that is not all of it.
    /// </summary>
    public string ShotsToPlay =>
        JsonSerializer.Serialize(
            Plan.Shots.Select(s =>
                new object?[]
                {
                    Plan.Angles[s.Angle].Camera + 1,
                    s.Range.In.FromZero.ToSecondsInexact(),
                    s.Range.Out.FromZero.ToSecondsInexact(),
                    (s.IsChosen && s.Reason != CameraReasons.ByHand ? $"{s.Reason}; in part {CameraReasons.ByHand}" : s.Reason)
                        + (Plan.Angles[s.Angle].Closer is null ? "" : "; closer"),
                    FramedShares.Of(Plan.Angles[s.Angle].Closer?.Over(s.Range, s.Range)),
                }
            )
        );

    /// <summary>Where people laugh, in seconds, for the page's script.</summary>
    public string CrowdToPlay =>
        JsonSerializer.Serialize(Plan.Crowd.Select(c => new[] { c.In.FromZero.ToSecondsInexact(), c.Out.FromZero.ToSecondsInexact() }));

    /// <summary>How the plan reads in a line.</summary>
    public string Figures =>
        Plan.Shots.Count == 0
            ? "No angle is shown."
            : FormattableString.Invariant(
                $"{Many.Of(Plan.Shots.Count, "shot")}, {new MediaTime(Plan.Extent.Length.Units / Plan.Shots.Count)} each on average; "
            )
                + FormattableString.Invariant($"who speaks is seen in {Plan.SpeakerSeen.Percent} % of what they say")
                + (ByHand > 0 ? FormattableString.Invariant($"; {Many.Of(ByHand, "shot")} {CameraReasons.ByHand}") : "");

    /// <summary>A moment as the page's clock shows it.</summary>
    public string Since(MediaTime at) => CameraStave.Clock(at - Plan.Extent.In.FromZero);

    private int ByHand => Plan.Shots.Count(s => s.IsChosen);

    /// <summary>The rules with how each is written now, and whether it is other than the pace has it.</summary>
    public IEnumerable<(CameraRule Rule, string Written, bool IsOwn)> Rules =>
        CameraRule.All.Select(r => (r, r.Written(Plan.Setup.Rules), Plan.Setup.IsOwn(r)));

    /// <summary>How the paces read.</summary>
    public static IReadOnlyList<(string Name, string Says)> Paces { get; } =
    [("calm", "Calm: long looks, few cuts"), ("even", "Even"), ("lively", "Lively: quick, near the speakers")];

    public IActionResult OnGet(long sitting) => Load(sitting) ? Page() : NotFound();

    /// <summary>The playing copies, as they are made.</summary>
    public IActionResult OnGetAngles(long sitting) => Load(sitting) ? Partial("_Angles", Played) : NotFound();

    /// <summary>The plan again, where somebody has changed something since the page that asks was made.</summary>
    public IActionResult OnGetPlan(long sitting, long seen) =>
        changes.Newest(Production.Id) == seen ? new NoContentResult()
        : Load(sitting) ? Partial("_Plan", this)
        : NotFound();

    /// <summary>What the mics of the plan do, which takes a moment to measure.</summary>
    public IActionResult OnGetMics(long sitting) =>
        SittingHere(sitting) is { } here ? Content(Told(planner.MicFiguresOf(here))) : NotFound();

    private static string Told(MicFigures? figures) =>
        figures is null
            ? "What the plan does for the mics can be told once two people with mics of their own are transcribed and measured."
            : FormattableString.Invariant($"With all mics open, those of other people add each voice again {Under(figures.All)} it ")
                + $"(the middle of {Many.Of(figures.Voices, "turn")}). "
                + (
                    figures.Lower >= MicFigures.Gone
                        ? "By the plan nothing of that is left. "
                        : FormattableString.Invariant($"By the plan it is {figures.Lower / 10m:0.#} dB less. ")
                )
                + FormattableString.Invariant($"{figures.Late} of {Many.Of(figures.Openings, "opening")} come after their voice begins.");

    private static string Under(int tenths) =>
        FormattableString.Invariant($"{Math.Abs(tenths) / 10m:0.#} dB {(tenths < 0 ? "under" : "over")}");

    /// <summary>Shows an angle, by its number from 1, in the shot at a moment, or from there to the shot's end.</summary>
    public IActionResult OnPostShow(long sitting, decimal at, int angle, bool on) =>
        Change(
            sitting,
            $"angle {angle} chosen at {Told(at)}",
            (now, setup) =>
            {
                var shot = ShotAt(now, at);
                var chosen =
                    angle >= 1 && angle <= now.Angles.Count
                        ? now.Angles[angle - 1]
                        : throw new EditRefusedException("There is no such angle.");
                var range = on ? new SittingRange(Moment(at), shot.Range.Out) : shot.Range;
                return chosen.Rolls.Any(r => r.In <= range.In && range.Out <= r.Out)
                    ? setup.Show(chosen.Id, Ranged(range))
                    : throw new EditRefusedException($"{chosen.Name} does not roll all along from {range.In} to {range.Out}.");
            }
        );

    /// <summary>Keeps the shot at a moment as it is.</summary>
    public IActionResult OnPostLock(long sitting, decimal at) =>
        Change(
            sitting,
            $"the shot at {Told(at)} kept",
            (now, setup) =>
            {
                var shot = ShotAt(now, at);
                return setup.Show(now.Angles[shot.Angle].Id, Ranged(shot.Range));
            }
        );

    /// <summary>Lets the plan choose again where the shot at a moment is.</summary>
    public IActionResult OnPostRelease(long sitting, decimal at) =>
        Change(sitting, $"the plan chooses again at {Told(at)}", (now, setup) => setup.Show(null, Ranged(ShotAt(now, at).Range)));

    /// <summary>Moves a cut from one moment to another; the shots on both sides are kept from then on.</summary>
    public IActionResult OnPostCut(long sitting, decimal at, decimal to) =>
        Change(
            sitting,
            $"the cut at {Told(at)} moved to {Told(to)}",
            (now, setup) =>
            {
                var (one, next) = now
                    .Shots.Zip(now.Shots.Skip(1))
                    .Where(p => p.First.Range.Out == p.Second.Range.In)
                    .OrderBy(p => Math.Abs((p.First.Range.Out - Moment(at)).Units))
                    .FirstOrDefault();
                var moved = Moment(to);
                if (one is null || moved <= one.Range.In || moved >= next.Range.Out)
                {
                    throw new EditRefusedException("A cut is moved within the two shots that it lies between.");
                }
                var (first, second) = (now.Angles[one.Angle], now.Angles[next.Angle]);
                var (before, behind) = (new SittingRange(one.Range.In, moved), new SittingRange(moved, next.Range.Out));
                return Rolls(first, before) && Rolls(second, behind)
                    ? setup.Show((first.Id, Ranged(before)), (second.Id, Ranged(behind)))
                    : throw new EditRefusedException("One of the two cameras does not roll there.");
            }
        );

    /// <summary>Marks laughter or applause, or takes the mark away.</summary>
    public IActionResult OnPostCrowd(long sitting, decimal from, decimal to, bool away) =>
        Change(
            sitting,
            $"{(away ? "no laughter" : "laughter or applause")} from {Told(from)} to {Told(to)}",
            (_, setup) =>
                from < to
                    ? setup.MarkCrowd(new PlanRange(Moment(from).FromZero, Moment(to).FromZero), !away)
                    : throw new EditRefusedException("It ends behind where it begins.")
        );

    /// <summary>Says whom an angle covers; without <paramref name="said"/> it is as proposed again.</summary>
    public IActionResult OnPostCovers(long sitting, long angle, string[] who, bool said) =>
        Change(
            sitting,
            said ? $"an angle shows {(who.Length == 0 ? "nobody" : string.Join(", ", who))}" : "an angle as proposed",
            (now, _) =>
                now.Angles.All(a => a.Id != angle) ? throw new EditRefusedException("That angle is not in this sitting any more.")
                : who.Except(now.People).Any() ? throw new EditRefusedException("Somebody named there does not speak in this sitting.")
                : CameraSetup.Covers(angle, said ? who : null)
        );

    /// <summary>
    /// An angle, by its number from 1, shows others from a moment on, until its next mark; at first those whom it shows there already, so
    /// that only who differs has to be said.
    /// </summary>
    public IActionResult OnPostTurn(long sitting, decimal at, int angle) =>
        Change(
            sitting,
            $"angle {angle} shows others from {Told(at)} on",
            (now, _) =>
            {
                var turned =
                    angle >= 1 && angle <= now.Angles.Count
                        ? now.Angles[angle - 1]
                        : throw new EditRefusedException("There is no such angle.");
                var from = Moment(at);
                return from < now.Extent.In || from >= now.Extent.Out ? throw new EditRefusedException("There is no such moment.")
                    : turned.Marks.Any(m => m.At == from.FromZero)
                        ? throw new EditRefusedException(
                            $"{turned.Name} has a mark at that moment already. Go to where it turns, and press again."
                        )
                    : CameraSetup.CoversFrom(
                        turned.Id,
                        from.FromZero,
                        turned.Marks.LastOrDefault(m => m.At < from.FromZero)?.People ?? turned.Covers
                    );
            }
        );

    /// <summary>
    /// Says whom an angle shows from one of its marks on, or takes the mark away; <paramref name="at"/> in units of time.
    /// </summary>
    public IActionResult OnPostTurned(long sitting, long angle, long at, string[] who, bool away) =>
        Change(
            sitting,
            away
                ? "an angle does not turn there"
                : $"an angle shows {(who.Length == 0 ? "nobody" : string.Join(", ", who))} from {new MediaTime(at)} on",
            (now, _) =>
                now.Angles.All(a => a.Id != angle || a.Marks.All(m => m.At.Units != at))
                    ? throw new EditRefusedException("That mark is not there any more.")
                : who.Except(now.People).Any() ? throw new EditRefusedException("Somebody named there does not speak in this sitting.")
                : CameraSetup.CoversFrom(angle, new MediaTime(at), away ? null : who)
        );

    /// <summary>Frames an angle tighter, as a view of its own, or takes that away.</summary>
    public IActionResult OnPostCloser(long sitting, long angle, int? percent, int? across, int? down, bool slow, bool away) =>
        Change(
            sitting,
            away ? "no punch-in" : "a punch-in",
            (now, setup) =>
            {
                if (now.Angles.All(a => a.Id != angle || a.Closer is not null))
                {
                    throw new EditRefusedException("That angle is not in this sitting any more.");
                }
                var offered = setup.PunchOf(angle) ?? planner.OfferedFor(angle);
                return CameraSetup.Closer(
                    angle,
                    away
                        ? null
                        : new PunchIn(
                            percent ?? offered.Percent,
                            across ?? offered.Across,
                            down ?? offered.Down,
                            percent is null ? offered.IsSlow : slow
                        )
                );
            }
        );

    /// <summary>Says where a person is in the picture of an angle, in hundredths of its width; forgets it where nothing is typed.</summary>
    public IActionResult OnPostPlaced(long sitting, long angle, string? person, int? across) =>
        Change(
            sitting,
            across is { } at ? FormattableString.Invariant($"{person} at {at} % of the picture") : "a place in the picture forgotten",
            (now, _) =>
                now.Angles.Any(a => a.Id == angle && a.Closer is null && person is not null && a.Covers.Contains(person))
                    ? CameraSetup.Placed(angle, person!, across)
                    : throw new EditRefusedException("That angle does not show that person any more.")
        );

    /// <summary>Chooses a pace.</summary>
    public IActionResult OnPostPace(long sitting, string? pace) => Change(sitting, $"pace: {pace}", (_, setup) => setup.AtPace(pace ?? ""));

    /// <summary>Has stories and lists follow the plan, or not.</summary>
    public IActionResult OnPostFollow(long sitting, bool follow) =>
        Change(sitting, follow ? "stories follow the plan" : "stories do not follow the plan", (_, _) => CameraSetup.Follow(follow));

    /// <summary>Has lists open the mics as they are planned, or not.</summary>
    public IActionResult OnPostFollowMics(long sitting, bool follow) =>
        Change(
            sitting,
            follow ? "lists open the mics of the plan" : "lists take the sound as it is",
            (_, _) => CameraSetup.FollowMics(follow)
        );

    /// <summary>Chooses the rules as they are typed.</summary>
    public IActionResult OnPostRules(long sitting) =>
        Change(
            sitting,
            "rules",
            (_, setup) =>
                setup.WithRules(
                    CameraRule
                        .All.Where(r => Request.Form.ContainsKey(r.Name))
                        .ToDictionary(r => r.Name, r => Request.Form[r.Name].ToString(), StringComparer.Ordinal)
                )
        );

    public IActionResult OnPostUndo(long sitting, bool redo) =>
        Answer(
            sitting,
            () =>
            {
                if (!cameras.Step(sitting, redo, Who))
                {
                    throw new EditRefusedException(
                        redo ? "There is nothing to bring again." : "There is nothing of yours to take back here."
                    );
                }
            }
        );

    private IActionResult Change(long sitting, string said, Func<SittingCameras, CameraSetup, CameraEdit> change) =>
        Answer(
            sitting,
            () =>
            {
                var now = planner.Of(Sitting);
                cameras.Change(sitting, setup => change(now, setup), said, Who);
            }
        );

    private IActionResult Answer(long sitting, Action change)
    {
        if (!ModelState.IsValid)
        {
            return Refused("The request names a place by something that is no number. Load the page again and repeat it.");
        }
        if (SittingHere(sitting) is not { } here)
        {
            return NotFound();
        }
        Sitting = here;
        if (Try(NewsOf.Cameras, change) is { } refused)
        {
            return Refused(refused);
        }
        if (!IsFragment)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/cameras/{sitting}"));
        }
        Load(sitting);
        return Partial("_Plan", this);
    }

    private static SittingShot ShotAt(SittingCameras now, decimal at) =>
        now.Shots.FirstOrDefault(s => s.Range.In <= Moment(at) && Moment(at) < s.Range.Out)
        ?? throw new EditRefusedException("No angle is shown there.");

    private static bool Rolls(PlannedAngle angle, SittingRange range) => angle.Rolls.Any(r => r.In <= range.In && range.Out <= r.Out);

    private static PlanRange Ranged(SittingRange range) => new(range.In.FromZero, range.Out.FromZero);

    // A day on either side of the sitting's zero is beyond any sitting.
    private static SittingTime Moment(decimal seconds) =>
        decimal.Abs(seconds) <= 1_000_000
            ? new SittingTime(MediaTime.FromSecondsRounded(seconds))
            : throw new EditRefusedException("There is no such moment.");

    private static string Told(decimal seconds) =>
        decimal.Abs(seconds) <= 1_000_000 ? MediaTime.FromSecondsRounded(seconds).ToString() : "nowhere";

    private bool Load(long sitting)
    {
        if (SittingHere(sitting) is not { } here)
        {
            return false;
        }
        Sitting = here;
        Seen = changes.Newest(Production.Id);
        var sources = footage.SourcesOf(sitting);
        Played = PlayedSitting.Of(here, sources, sittingMics.Of(here), cache, jobs.Newest(WorkKinds.Sync, here.Id));
        Plan = planner.Of(here);
        Stave = CameraStave.Of(Plan);
        if (sources.Select(s => s.Facts.Picture?.Rate).FirstOrDefault(r => r is not null) is { } rate)
        {
            FramesASecond = ((decimal)rate.Numerator / rate.Denominator).ToString("0.####", CultureInfo.InvariantCulture);
        }
        return true;
    }
}
