namespace EmberLane.Core.Cameras;

/// <summary>What is shown where it is nobody's turn.</summary>
public enum Meanwhile
{
    /// <summary>The shot is held.</summary>
    Hold,

    /// <summary>The wide view is wanted.</summary>
    Wide,
}

/// <summary>
/// What a producer wants of a camera plan. Lengths are amounts of time; how each is used stands in docs/decisions/cameras.md. Three paces
/// come ready: <see cref="Calm"/>, <see cref="Even"/> and <see cref="Lively"/>.
/// </summary>
public sealed record CameraRules
{
    /// <summary>The shortest and the longest shot.</summary>
    public MediaTime Shortest { get; init; } = Milliseconds(2_500);

    /// <inheritdoc cref="Shortest"/>
    public MediaTime Longest { get; init; } = Milliseconds(25_000);

    /// <summary>So long before a voice begins it should be seen; below zero, so long after.</summary>
    public MediaTime Lead { get; init; } = Milliseconds(200);

    /// <summary>Who speaks for less than this is not cut to.</summary>
    public MediaTime Ignore { get; init; } = Milliseconds(1_000);

    /// <summary>How often the wide view returns; zero is never.</summary>
    public MediaTime WideEvery { get; init; } = Milliseconds(150_000);

    /// <summary>How long it stays.</summary>
    public MediaTime WideFor { get; init; } = Milliseconds(4_000);

    /// <summary>How far into an answer a listener is shown first; zero is never.</summary>
    public MediaTime ListenAfter { get; init; } = Milliseconds(40_000);

    /// <summary>How often from then on.</summary>
    public MediaTime ListenEvery { get; init; } = Milliseconds(40_000);

    /// <summary>For how long.</summary>
    public MediaTime ListenFor { get; init; } = Milliseconds(3_000);

    /// <summary>How often within an answer a tighter framing comes; zero is only where the other rules want a cut.</summary>
    public MediaTime PunchEvery { get; init; } = MediaTime.Zero;

    /// <summary>How long it stays.</summary>
    public MediaTime PunchFor { get; init; } = Milliseconds(6_000);

    /// <summary>What is wanted while several talk.</summary>
    public Meanwhile Together { get; init; } = Meanwhile.Wide;

    /// <summary>What is wanted while nobody does, and from how long a silence on.</summary>
    public Meanwhile Silence { get; init; } = Meanwhile.Hold;

    /// <inheritdoc cref="Silence"/>
    public MediaTime SilenceAfter { get; init; } = Milliseconds(3_000);

    /// <summary>How much is gained by showing a speaker alone rather than with others, as a share; more for narrow frames.</summary>
    public PerMille Closer { get; init; } = new(120);

    /// <summary>How much a cut costs: as much as a second, of a thousand, in which the speaker is out of view.</summary>
    public PerMille Cut { get; init; } = new(2_500);

    /// <summary>How long before a voice its mic opens.</summary>
    public MediaTime MicLead { get; init; } = Milliseconds(300);

    /// <summary>How long behind a voice its mic stays open.</summary>
    public MediaTime MicTail { get; init; } = Milliseconds(400);

    /// <summary>A pause of the same voice up to this leaves its mic open.</summary>
    public MediaTime MicHold { get; init; } = Milliseconds(1_500);

    /// <summary>
    /// The same for pictures that are seen narrower than they were filmed, into which several people seldom fit: views of the speaker alone
    /// are wanted more.
    /// </summary>
    public CameraRules Narrow => this with { Closer = new PerMille(Math.Max(Closer.Value, 800)) };

    /// <summary>Few cuts, long looks.</summary>
    public static CameraRules Calm { get; } =
        new()
        {
            Shortest = Milliseconds(4_000),
            Longest = Milliseconds(45_000),
            Ignore = Milliseconds(2_000),
            WideEvery = Milliseconds(300_000),
            WideFor = Milliseconds(6_000),
            ListenAfter = Milliseconds(60_000),
            ListenEvery = Milliseconds(60_000),
            ListenFor = Milliseconds(4_000),
            Cut = new(4_000),
        };

    /// <summary>What a plan goes by where nothing else is asked.</summary>
    public static CameraRules Even { get; } = new();

    /// <summary>Quick, near the speakers.</summary>
    public static CameraRules Lively { get; } =
        new()
        {
            Shortest = Milliseconds(1_500),
            Longest = Milliseconds(12_000),
            Ignore = Milliseconds(600),
            WideEvery = Milliseconds(60_000),
            WideFor = Milliseconds(2_500),
            ListenAfter = Milliseconds(15_000),
            ListenEvery = Milliseconds(20_000),
            ListenFor = Milliseconds(2_000),
            Closer = new(300),
            Cut = new(1_000),
        };

    /// <summary>The paces by their names.</summary>
    public static IReadOnlyDictionary<string, CameraRules> Paces { get; } =
        new Dictionary<string, CameraRules>(StringComparer.Ordinal)
        {
            ["calm"] = Calm,
            ["even"] = Even,
            ["lively"] = Lively,
        };

    /// <summary>
    /// Throws <see cref="FormatException"/> that names the rules which contradict each other, or one that is no length for a shot.
    /// </summary>
    public void Check()
    {
        var day = CameraProblem.Longest;
        foreach (var rule in CameraRule.All.Where(r => r.IsTime))
        {
            var value = rule.Time(this);
            var least = rule.Name == "lead" ? -Milliseconds(5_000) : MediaTime.Zero;
            if (value < least || value > day)
            {
                throw new FormatException($"“{rule.Name}” is {value}; it lies between {least} and a day.");
            }
        }
        Refuse(Longest <= MediaTime.Zero, "“longest” is 0: every shot lasts some time.");
        Refuse(Shortest > Longest, $"“shortest” ({Shortest}) is longer than “longest” ({Longest}). Make one of them fit the other.");
        Refuse(Lead > Milliseconds(5_000), $"“lead” is {Lead}; at most 5 seconds before a voice are useful.");
        Refuse(IsTooOften(WideEvery), $"“wideEvery” is {WideEvery}; it is 0, or at least a second.");
        Refuse(ListenAfter > MediaTime.Zero && IsTooOften(ListenEvery), $"“listenEvery” is {ListenEvery}; it is at least a second.");
        Refuse(
            WideEvery > MediaTime.Zero && WideFor > WideEvery,
            $"“wideFor” ({WideFor}) is longer than “wideEvery” ({WideEvery}): the wide view could not leave before it returns."
        );
        Refuse(
            ListenAfter > MediaTime.Zero && ListenFor >= ListenEvery,
            $"“listenFor” ({ListenFor}) is not shorter than “listenEvery” ({ListenEvery}): the speaker would not be seen again."
        );
        Refuse(IsTooOften(PunchEvery), $"“punchEvery” is {PunchEvery}; it is 0, or at least a second.");
        Refuse(
            PunchEvery > MediaTime.Zero && PunchFor >= PunchEvery,
            $"“punchFor” ({PunchFor}) is not shorter than “punchEvery” ({PunchEvery}): the whole picture would not be seen again."
        );
        Refuse(Closer.Value is < 0 or > 1000, "“closer” lies between 0 and 1.");
        Refuse(Cut.Value is < 0 or > 20_000, "“cut” lies between 0 and 20.");
    }

    private static bool IsTooOften(MediaTime every) => every > MediaTime.Zero && every < Milliseconds(1_000);

    private static void Refuse(bool when, string why)
    {
        if (when)
        {
            throw new FormatException(why);
        }
    }

    private static MediaTime Milliseconds(long milliseconds) => MediaTime.FromMilliseconds(milliseconds);
}
