using EmberLane.Application.Gathering;
using EmberLane.Core.Cameras;
using EmberLane.Core.Handoff;
using EmberLane.Core.Pictures;
using EmberLane.Core.Stories;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>An angle as it is planned: whom it covers, and whether nobody has said so yet.</summary>
public sealed record PlannedAngle(long Id, string Name, IReadOnlyList<string> Covers, bool IsGuess, IReadOnlyList<SittingRange> Rolls)
{
    /// <summary>From when on it shows others, in order.</summary>
    public IReadOnlyList<CoverMark> Marks { get; init; } = [];

    /// <summary>As a tighter framing of another angle; null for an angle itself.</summary>
    public PunchIn? Closer { get; init; }

    /// <summary>The place of the angle that it is a framing of; its own place for an angle itself.</summary>
    public required int Camera { get; init; }

    /// <summary>The pixels of its picture, where they are known.</summary>
    public (int Width, int Height) Pixels { get; init; }
}

/// <summary>A shot on the sitting's clock; <see cref="Angle"/> is the place of its angle in the list.</summary>
public sealed record SittingShot(int Angle, SittingRange Range, string Reason, bool IsChosen);

/// <summary>A mic that is open for a while.</summary>
public sealed record SittingMicOpen(string Who, SittingRange Range);

/// <summary>The camera plan of a sitting, with what it was made of.</summary>
public sealed record SittingCameras(
    SittingRange Extent,
    CameraSetup Setup,
    IReadOnlyList<PlannedAngle> Angles,
    IReadOnlyList<string> People,
    IReadOnlyList<SittingShot> Shots,
    IReadOnlyList<SittingMicOpen> Mics,
    IReadOnlyList<SittingRange> Crowd,
    PerMille SpeakerSeen,
    string? NotPlanned
);

/// <summary>Plans which angle of a sitting shows when, by its text and by what people chose.</summary>
public sealed class CameraDesk(
    Footage footage,
    KeptTurns turnsOf,
    Store.Cameras cameras,
    SittingMics sittingMics,
    Shots shots,
    MediaCache cache
)
{
    /// <summary>The plan of a sitting as it is now. Linear in its length.</summary>
    public SittingCameras Of(Sitting sitting)
    {
        var sources = footage.SourcesOf(sitting.Id);
        var seen = SittingAngles.Of(sources);
        var setup = cameras.Of(sitting.Id);
        var turns = turnsOf.Of(sitting.TranscriptId);
        var people = PeopleOf(turns);
        var angles = Angles(seen, setup, turns);
        var extent = ExtentOf(sources);
        var clock = new PlanClock(extent);
        var names = angles.Select(a => a.Id.ToString(System.Globalization.CultureInfo.InvariantCulture)).ToList();
        var problem = new CameraProblem(
            extent.Length,
            [
                .. angles.Zip(
                    names,
                    (a, name) =>
                        new PlanAngle(name, a.Covers, [.. a.Rolls.Select(clock.Plan)])
                        {
                            Changes =
                            [
                                .. CoverMark.Changes(a.Marks, extent.Out.FromZero).Select(c => c with { Range = clock.Plan(c.Range) }),
                            ],
                            Tighter = a.Closer is null ? [] : [new PlanRange(MediaTime.Zero, extent.Length)],
                        }
                ),
            ],
            [.. turns.Select(t => t with { Range = clock.Plan(t.Range) })],
            [.. setup.Crowd.Select(clock.Plan)],
            [.. angles.Zip(names).SelectMany(a => LocksOf(setup, a.First, a.Second, clock))],
            setup.Rules
        );
        string? notPlanned = null;
        var shots = new List<SittingShot>();
        if (angles.Count > 0)
        {
            try
            {
                shots =
                [
                    .. CameraPlanner
                        .Plan(problem)
                        .Shots.Select(s => new SittingShot(
                            s.Angle,
                            clock.Sitting(s.Range),
                            s.Reason,
                            problem.Locked.Any(l => l.Angle == names[s.Angle] && l.Range.Meets(s.Range))
                        )),
                ];
            }
            catch (FormatException refused)
            {
                notPlanned = refused.Message;
            }
        }
        return new SittingCameras(
            extent,
            setup,
            angles,
            people,
            shots,
            [.. MicPlan.Of(problem.Speech, problem.Length, problem.Rules).Select(m => new SittingMicOpen(m.Who, clock.Sitting(m.Range)))],
            [.. problem.Crowd.Select(clock.Sitting)],
            SeenOf(problem, shots, clock),
            notPlanned
        );
    }

    /// <summary>
    /// The shots of a story's cards by the plan of the whole story, for those of sittings whose plan is followed; by the rules of the one
    /// of them that is shown longest. None where none is followed. A story that is seen narrower than it was filmed shows more of who
    /// speaks alone.
    /// </summary>
    public IReadOnlyDictionary<Guid, IReadOnlyList<AngleShot>> OfStory(StoredStory story, StoryCut cut, bool isNarrow = false)
    {
        var rate = story.Start.Count.Rate;
        var wanted = cameras.Followed();
        var followed = story.Story.Cards.Select(c => c.SittingId).Where(wanted.Contains).Distinct().ToDictionary(id => id, cameras.Of);
        if (followed.Count == 0)
        {
            return new Dictionary<Guid, IReadOnlyList<AngleShot>>();
        }
        var planned = followed.Keys.Select(footage.Sitting).OfType<Sitting>().ToDictionary(s => s.Id, s => Of(s, followed[s.Id]));
        var parts = story.Story.Pieces.SelectMany(p => PartsOf(p, cut, rate, planned)).ToList();
        var longest = parts.Where(p => p.Sitting is not null).GroupBy(p => p.Sitting!.Value).MaxBy(g => g.Sum(p => p.Range.Length.Units));
        if (longest is null)
        {
            return new Dictionary<Guid, IReadOnlyList<AngleShot>>();
        }
        try
        {
            var rules = followed[longest.Key].Rules;
            var views = planned.Values.SelectMany(s => s.Views).ToDictionary(v => v.Id);
            return StoryCameras
                .Plan(parts, planned.ToDictionary(s => s.Key, s => s.Value.Planned), isNarrow ? rules.Narrow : rules)
                .ToDictionary(
                    s => s.Key,
                    s =>
                        (IReadOnlyList<AngleShot>)
                            [
                                .. s.Value.Select(shot => new AngleShot(Sitting(shot.Range), views[shot.Angle].Clips)
                                {
                                    Closer = views[shot.Angle].Closer,
                                }),
                            ]
                );
        }
        catch (FormatException)
        {
            // Its rules are refused where they are chosen; a story longer than a plan may be is shown without one.
            return new Dictionary<Guid, IReadOnlyList<AngleShot>>();
        }
    }

    /// <summary>The tighter framing that is offered for an angle: around the faces that were found in its picture, if any.</summary>
    public PunchIn OfferedFor(long angle)
    {
        var faces = shots.OfSource(angle).SelectMany(s => s.People).Select(p => p.Box).ToList();
        return faces.Count == 0
            ? PunchIn.Offered
            : PunchIn.Offered with
            {
                Across = Math.Clamp((int)faces.Average(f => f.X + (f.Width / 2.0)) / 10, 0, 100),
                Down = Math.Clamp((int)faces.Average(f => f.Y + (f.Height / 2.0)) / 10, 0, 100),
            };
    }

    /// <summary>
    /// When which mics of a sitting are open in lists, on its clock; <paramref name="sources"/> are its files as lists name them. None
    /// where nobody wants it, or it has no text or no mic.
    /// </summary>
    public IReadOnlyList<MicShot> MicsOf(Sitting sitting, IReadOnlyList<ListedSource> sources)
    {
        var setup = cameras.Of(sitting.Id);
        if (!setup.MicsAreFollowed || sitting.TranscriptId is not { } text)
        {
            return [];
        }
        var byId = sources.ToDictionary(s => s.Id);
        var mics = sittingMics.Of(sitting).All.Where(m => byId.GetValueOrDefault(m.SourceId)?.Place is not null).ToList();
        var clock = new PlanClock(ExtentOf(footage.SourcesOf(sitting.Id)));
        var speech = turnsOf.Of(text).Select(t => t with { Range = clock.Plan(t.Range) }).ToList();
        return
        [
            .. SpeakerMics
                .Open(MicPlan.Of(speech, clock.Extent.Length, setup.Rules), mics)
                .Select(o => new MicShot(clock.Sitting(o.Range), byId[mics[o.Mic].SourceId], mics[o.Mic].Channel + 1, o.Mic)),
        ];
    }

    /// <summary>
    /// What opening the mics of a sitting by its plan does; null while they are not measured, or where that can not be told. Linear in its
    /// length.
    /// </summary>
    public MicFigures? MicFiguresOf(Sitting sitting)
    {
        var mics = sittingMics.Of(sitting);
        var path = cache.MicLevels(mics.Key);
        if (sitting.TranscriptId is not { } text || !cache.IsWhole(path))
        {
            return null;
        }
        var levels = MicLevelFile.Read(path);
        if (levels.Rows.Count != mics.Channels.Count)
        {
            return null;
        }
        var people = mics.Channels.Select(c => mics.All.First(m => m.SourceId == c.SourceId && m.Channel == c.Channel).Person).ToList();
        var clock = new PlanClock(ExtentOf(footage.SourcesOf(sitting.Id)));
        var speech = turnsOf.Of(text);
        var open = MicPlan.Of(
            [.. speech.Select(t => t with { Range = clock.Plan(t.Range) })],
            clock.Extent.Length,
            cameras.Of(sitting.Id).Rules
        );
        return MicFigures.Of(
            levels,
            people,
            speech,
            [
                .. open.Select(o =>
                    o with
                    {
                        Range = clock.Sitting(o.Range) is var r ? new PlanRange(r.In.FromZero, r.Out.FromZero) : default,
                    }
                ),
            ]
        );
    }

    private static IEnumerable<StoryPart> PartsOf(
        Piece piece,
        StoryCut cut,
        FrameRate rate,
        Dictionary<long, (StorySitting Planned, IReadOnlyList<View> Views)> planned
    ) =>
        piece is Card card && planned.ContainsKey(card.SittingId)
            ? CardFrames
                .Of(cut.Of(card), rate)
                .Select(f => f.Shown(rate))
                .Select(r => new StoryPart(card.Id, card.SittingId, new PlanRange(r.In.FromZero, r.Out.FromZero), card.Angle))
            : [new StoryPart(piece.Id, null, new PlanRange(MediaTime.Zero, rate.TimeOf(cut.Frames(piece, rate))), null)];

    // What can be seen: an angle or a tighter framing of one, and the clips of its camera.
    private sealed record View(long Id, PunchIn? Closer, IReadOnlyList<long> Clips);

    private (StorySitting Planned, IReadOnlyList<View> Views) Of(Sitting sitting, CameraSetup setup)
    {
        var seen = SittingAngles.Of(footage.SourcesOf(sitting.Id));
        var turns = turnsOf.Of(sitting.TranscriptId);
        var angles = Angles(seen, setup, turns);
        return (
            new StorySitting(
                [
                    .. angles.Select(a => new StoryAngle(
                        a.Id,
                        a.Covers,
                        [.. a.Rolls.Select(r => new PlanRange(r.In.FromZero, r.Out.FromZero))]
                    )
                    {
                        Changes = CoverMark.Changes(a.Marks, a.Rolls.Max(r => r.Out).FromZero),
                        IsTighter = a.Closer is not null,
                    }),
                ],
                turns,
                setup.Crowd,
                setup.Locks
            ),
            [.. angles.Select(a => new View(a.Id, a.Closer, [.. seen[a.Camera].Clips.Select(c => c.Id)]))]
        );
    }

    // The angles, and behind them their tighter framings, which cover the same people unless somebody says otherwise.
    private static List<PlannedAngle> Angles(IReadOnlyList<SittingAngle> seen, CameraSetup setup, IReadOnlyList<PlanTurn> turns)
    {
        var people = PeopleOf(turns);
        var faces = seen.Select(a => (IReadOnlyList<string>)[.. a.Clips.SelectMany(c => NamedFace.Of(c.Labels)).Select(n => n.Name)]);
        var guesses = CoverGuess.Of([.. seen.Select(a => a.Name)], people, [.. faces]);
        var angles = seen.Zip(guesses).Select((a, i) => Angle(a.First, a.Second, i)).ToList();
        return [.. angles, .. angles.Where(a => setup.PunchOf(a.Id) is not null).Select(Closer)];

        PlannedAngle Angle(SittingAngle angle, IReadOnlyList<string> guess, int place)
        {
            var chosen = Known(setup.CoversOf(angle.Id), people);
            return new PlannedAngle(
                angle.Id,
                angle.Name,
                chosen ?? guess,
                chosen is null,
                [.. angle.Clips.Select(c => c.Place!.Value.Fill(c.Facts.Duration))]
            )
            {
                Marks = KnownMarks(angle.Id),
                Camera = place,
                Pixels = angle.Clips[0].Facts.Picture is { } picture ? (picture.Width, picture.Height) : default,
            };
        }

        IReadOnlyList<CoverMark> KnownMarks(long angle) =>
            [
                .. setup
                    .MarksOf(angle)
                    .Select(m => (m.At, People: Known(m.People, people)))
                    .Where(m => m.People is not null)
                    .Select(m => new CoverMark(m.At, m.People!)),
            ];

        PlannedAngle Closer(PlannedAngle angle)
        {
            var id = CameraSetup.CloserOf(angle.Id);
            var chosen = Known(setup.CoversOf(id), people);
            return angle with
            {
                Id = id,
                Name = $"{angle.Name}, closer",
                Covers = chosen ?? angle.Covers,
                IsGuess = chosen is null,
                Marks = setup.MarksOf(id).Count > 0 || chosen is not null ? KnownMarks(id) : angle.Marks,
                Closer = setup.PunchOf(angle.Id),
            };
        }
    }

    // Whom a person named, of those who speak by the text that is read now; null where all of them have other names by now.
    private static List<string>? Known(IReadOnlyList<string>? named, List<string> people) =>
        named is null ? null
        : named.Where(people.Contains).ToList() is var known && (known.Count > 0 || named.Count == 0) ? known
        : null;

    private static List<string> PeopleOf(IReadOnlyList<PlanTurn> turns) => [.. turns.Select(t => t.Who).Distinct(StringComparer.Ordinal)];

    private static SittingRange Sitting(PlanRange range) => new(new SittingTime(range.In), new SittingTime(range.Out));

    // Between the sitting's clock and the plan's, which begins where the first source does.
    private readonly record struct PlanClock(SittingRange Extent)
    {
        public PlanRange Plan(SittingRange range) => new(range.In - Extent.In, range.Out - Extent.In);

        public PlanRange Plan(PlanRange range) => new(range.In - Extent.In.FromZero, range.Out - Extent.In.FromZero);

        public SittingRange Sitting(PlanRange range) => new(Extent.In + range.In, Extent.In + range.Out);
    }

    // A lock holds where its camera rolls: clips may have been moved since.
    private static IEnumerable<LockedAngle> LocksOf(CameraSetup setup, PlannedAngle angle, string name, PlanClock clock) =>
        setup
            .Locks.Where(l => l.Angle == angle.Id)
            .SelectMany(l =>
                angle.Rolls.Select(r =>
                {
                    var (own, rolls) = (clock.Plan(l.Range), clock.Plan(r));
                    return new LockedAngle(name, new PlanRange(MediaTime.Max(own.In, rolls.In), MediaTime.Min(own.Out, rolls.Out)));
                })
            )
            .Where(l => l.Range.In < l.Range.Out);

    // How much of the speech of people in view is said while they are seen.
    private static PerMille SeenOf(CameraProblem problem, List<SittingShot> shots, PlanClock clock)
    {
        long said = 0,
            seen = 0;
        var first = 0;
        foreach (var turn in problem.Speech.Where(t => problem.Angles.Any(a => a.Shows(t.Who))).OrderBy(t => t.Range.In))
        {
            said += turn.Range.Length.Units;
            while (first < shots.Count && clock.Plan(shots[first].Range).Out <= turn.Range.In)
            {
                first++;
            }
            for (var i = first; i < shots.Count && clock.Plan(shots[i].Range).In < turn.Range.Out; i++)
            {
                var (from, to) = (clock.Plan(shots[i].Range), turn.Range);
                var both = new PlanRange(MediaTime.Max(from.In, to.In), MediaTime.Min(from.Out, to.Out));
                seen += problem.Angles[shots[i].Angle].Covered(turn.Who, both).Units;
            }
        }
        return PerMille.Of(seen, said);
    }

    private static SittingRange ExtentOf(IReadOnlyList<Source> sources)
    {
        var placed = sources.Where(s => s.Place is not null).Select(s => s.Place!.Value.Fill(s.Facts.Duration)).ToList();
        return placed.Count == 0 ? default : new SittingRange(placed.Min(r => r.In), placed.Max(r => r.Out));
    }
}
