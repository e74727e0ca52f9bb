namespace EmberLane.Core.Cameras;

/// <summary>A rule by its name in files, what it is called for people, and how it is read and set.</summary>
public sealed record CameraRule(string Name, string Says, Func<CameraRules, object> Get, Func<CameraRules, object, CameraRules> Set)
{
    /// <summary>All of them, in the order in which they are asked for.</summary>
    public static IReadOnlyList<CameraRule> All { get; } =
    [
        Timed("shortest", "shortest shot", r => r.Shortest, (r, v) => r with { Shortest = v }),
        Timed("longest", "longest shot", r => r.Longest, (r, v) => r with { Longest = v }),
        Timed("lead", "seen before the voice begins", r => r.Lead, (r, v) => r with { Lead = v }),
        Timed("ignore", "who speaks for less is not cut to", r => r.Ignore, (r, v) => r with { Ignore = v }),
        Timed("wideEvery", "the wide view returns every (0: never)", r => r.WideEvery, (r, v) => r with { WideEvery = v }),
        Timed("wideFor", "and stays for", r => r.WideFor, (r, v) => r with { WideFor = v }),
        Timed("listenAfter", "a listener is shown after (0: never)", r => r.ListenAfter, (r, v) => r with { ListenAfter = v }),
        Timed("listenEvery", "and again every", r => r.ListenEvery, (r, v) => r with { ListenEvery = v }),
        Timed("listenFor", "each time for", r => r.ListenFor, (r, v) => r with { ListenFor = v }),
        Timed("punchEvery", "a punch-in comes every (0: only where a cut helps)", r => r.PunchEvery, (r, v) => r with { PunchEvery = v }),
        Timed("punchFor", "and stays for", r => r.PunchFor, (r, v) => r with { PunchFor = v }),
        Chosen("together", "while several talk", r => r.Together, (r, v) => r with { Together = v }),
        Chosen("silence", "while nobody talks", r => r.Silence, (r, v) => r with { Silence = v }),
        Timed("silenceAfter", "from a silence of", r => r.SilenceAfter, (r, v) => r with { SilenceAfter = v }),
        Shared("closer", "how much a view of the speaker alone is wanted", r => r.Closer, (r, v) => r with { Closer = v }),
        Shared("cut", "how much a cut costs", r => r.Cut, (r, v) => r with { Cut = v }),
        Timed("micLead", "a mic opens before the voice by", r => r.MicLead, (r, v) => r with { MicLead = v }),
        Timed("micTail", "and closes behind it after", r => r.MicTail, (r, v) => r with { MicTail = v }),
        Timed("micHold", "a pause up to this leaves it open", r => r.MicHold, (r, v) => r with { MicHold = v }),
    ];

    /// <summary>Whether it is an amount of time.</summary>
    public bool IsTime => Get(CameraRules.Even) is MediaTime;

    /// <summary>Whether it is one of the <see cref="Meanwhile"/>.</summary>
    public bool IsChoice => Get(CameraRules.Even) is Meanwhile;

    /// <summary>The time that it is set to.</summary>
    public MediaTime Time(CameraRules rules) => (MediaTime)Get(rules);

    /// <summary>As it is typed and written: seconds, a share, or a word.</summary>
    public string Written(CameraRules rules) =>
        Get(rules) switch
        {
            MediaTime time => FormattableString.Invariant($"{(decimal)time.ToMillisecondsRounded() / 1000:0.###}"),
            PerMille share => FormattableString.Invariant($"{share.Share:0.###}"),
            Meanwhile.Wide => "wide",
            _ => "hold",
        };

    /// <summary>The rules with this one as it is typed. Throws <see cref="FormatException"/> that names it.</summary>
    public CameraRules Read(CameraRules rules, string typed)
    {
        if (IsChoice)
        {
            return typed switch
            {
                "wide" => Set(rules, Meanwhile.Wide),
                "hold" => Set(rules, Meanwhile.Hold),
                _ => throw new FormatException($"“{Name}” is “wide” or “hold”, not “{typed}”."),
            };
        }
        if (
            !decimal.TryParse(
                typed,
                System.Globalization.NumberStyles.AllowLeadingSign | System.Globalization.NumberStyles.AllowDecimalPoint,
                System.Globalization.CultureInfo.InvariantCulture,
                out var value
            )
            || decimal.Abs(value) > 100_000
        )
        {
            throw new FormatException($"“{Name}” is a number{(IsTime ? " of seconds" : "")}, not “{typed}”.");
        }
        return Set(rules, IsTime ? MediaTime.FromSecondsRounded(value) : new PerMille((int)decimal.Round(value * 1000)));
    }

    private static CameraRule Timed(
        string name,
        string says,
        Func<CameraRules, MediaTime> get,
        Func<CameraRules, MediaTime, CameraRules> set
    ) => new(name, says, r => get(r), (r, v) => set(r, (MediaTime)v));

    private static CameraRule Shared(
        string name,
        string says,
        Func<CameraRules, PerMille> get,
        Func<CameraRules, PerMille, CameraRules> set
    ) => new(name, says, r => get(r), (r, v) => set(r, (PerMille)v));

    private static CameraRule Chosen(
        string name,
        string says,
        Func<CameraRules, Meanwhile> get,
        Func<CameraRules, Meanwhile, CameraRules> set
    ) => new(name, says, r => get(r), (r, v) => set(r, (Meanwhile)v));
}
