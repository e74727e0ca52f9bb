namespace EmberLane.Footage;

/// <summary>A made person: who, with which voice, where in the drawn place (scene units) and looking how.</summary>
internal sealed record Person(
    string Key,
    string Name,
    FliteVoice Voice,
    float X,
    float Y,
    uint Skin,
    uint Coat,
    uint Head,
    bool Cap,
    bool Seen
);

/// <summary>How one microphone hears: a gain for each person (by key), one for everybody else, how much echo, and its own noise.</summary>
internal sealed record Mic(string Name, IReadOnlyDictionary<string, double> Gains, double Others, double Echo, double Noise);

/// <summary>A recorder: its channels in one polyphonic file.</summary>
internal sealed record Recorder(string File, double Start, string StartsAt, IReadOnlyList<Mic> Mics);

/// <summary>
/// One clip of a camera. <see cref="Start"/> and <see cref="End"/> are seconds on the sitting's clock;
/// <see cref="Ppm"/> is how much slower its clock runs. The picture shows the scene around (X, Y), magnified by Zoom.
/// </summary>
internal sealed record Clip(
    string File,
    string Rate,
    string Timecode,
    string Reel,
    double Start,
    double End,
    double Ppm,
    float X,
    float Y,
    float Zoom,
    bool Walks,
    Mic Mic
);

/// <summary>A sitting to be made. The end of a clip may lie past the talk: it is cut there.</summary>
internal sealed record Occasion(
    string Key,
    string Title,
    string Place,
    IReadOnlyList<Person> People,
    Recorder? Recorder,
    IReadOnlyList<Clip> Clips
);

/// <summary>The production Slack Water, all of it made up.</summary>
internal static class Plan
{
    private static readonly FliteVoice InterviewerVoice = new("awb", 0, 1.0);

    private static Person Interviewer => new("INTERVIEWER", "Interviewer", InterviewerVoice, 480, 0, 0, 0, 0, false, false);

    public static IReadOnlyList<Occasion> Sittings { get; } =
    [
        new Occasion(
            "first-crossing",
            "The first crossing",
            "ferry",
            [
                new Person(
                    "MAREN",
                    "Maren Oakhurst",
                    new FliteVoice("slt", -120, 0.97),
                    330,
                    300,
                    0xFFD9A47E,
                    0xFF6B4A3A,
                    0xFF5A3A22,
                    false,
                    true
                ),
                new Person(
                    "TOBIAS",
                    "Tobias Fenn",
                    new FliteVoice("rms", -40, 1.03),
                    640,
                    306,
                    0xFFC98E66,
                    0xFF2B4A5E,
                    0xFF2B4A5E,
                    true,
                    true
                ),
                Interviewer,
            ],
            new Recorder(
                "SND0614_T01.WAV",
                0.0,
                "07:42:05:00",
                [
                    new Mic("Lav Maren", new Dictionary<string, double> { ["MAREN"] = 1.0, ["TOBIAS"] = 0.11 }, 0.05, 0.03, 0.0005),
                    new Mic("Lav Tobias", new Dictionary<string, double> { ["TOBIAS"] = 1.0, ["MAREN"] = 0.10 }, 0.05, 0.03, 0.0005),
                    new Mic(
                        "Boom",
                        new Dictionary<string, double>
                        {
                            ["MAREN"] = 0.42,
                            ["TOBIAS"] = 0.40,
                            ["INTERVIEWER"] = 0.55,
                        },
                        0.4,
                        0.12,
                        0.0006
                    ),
                ]
            ),
            [
                new Clip("A001C002_FERRY_WIDE.MOV", "25", "01:00:00:00", "A001C002", 3.4, 9999, 0, 480, 290, 1.0f, false, CameraMic(0.22)),
                new Clip(
                    "B001C002_CLOSE_MAREN.MOV",
                    "25",
                    "01:02:10:05",
                    "B001C002",
                    8.125,
                    9999,
                    0,
                    345,
                    290,
                    2.2f,
                    false,
                    CameraMic(0.26)
                ),
                new Clip(
                    "C003C001_CLOSE_TOBIAS.MOV",
                    "30000/1001",
                    "00:59:58;12",
                    "C003C001",
                    1.71,
                    62.0,
                    30,
                    640,
                    296,
                    2.2f,
                    false,
                    CameraMic(0.26)
                ),
                new Clip(
                    "C003C002_CLOSE_TOBIAS.MOV",
                    "30000/1001",
                    "01:01:12;00",
                    "C003C002",
                    75.3,
                    9999,
                    30,
                    628,
                    300,
                    2.0f,
                    false,
                    CameraMic(0.26)
                ),
            ]
        ),
        new Occasion(
            "school-hut",
            "The school hut",
            "hut",
            [
                new Person(
                    "ILSE",
                    "Ilse Varga",
                    new FliteVoice("slt", 60, 0.96),
                    520,
                    310,
                    0xFFE0B48F,
                    0xFF6E7A35,
                    0xFF8C8378,
                    false,
                    true
                ),
                Interviewer,
            ],
            new Recorder(
                "SND0615_T03.WAV",
                0.0,
                "10:15:30:00",
                [
                    new Mic("Lav Ilse", new Dictionary<string, double> { ["ILSE"] = 1.0 }, 0.08, 0.06, 0.0005),
                    new Mic("Boom", new Dictionary<string, double> { ["ILSE"] = 0.38, ["INTERVIEWER"] = 0.55 }, 0.4, 0.16, 0.0006),
                ]
            ),
            [
                new Clip("A004C011_HUT.MOV", "25", "10:15:34:10", "A004C011", 4.4, 9999, 0, 500, 280, 1.25f, false, CameraMic(0.30)),
                new Clip(
                    "D002C004_HUT_CLOSE.MP4",
                    "24000/1001",
                    "02:30:00:00",
                    "D002C004",
                    2.2,
                    9999,
                    0,
                    530,
                    300,
                    2.3f,
                    false,
                    CameraMic(0.30)
                ),
            ]
        ),
        new Occasion(
            "bridge-walk",
            "The bridge walk",
            "bridge",
            [
                new Person(
                    "ANSELM",
                    "Anselm Roe",
                    new FliteVoice("rms", -190, 0.96),
                    500,
                    300,
                    0xFFCF9A74,
                    0xFFA8702A,
                    0xFFE8E0D0,
                    true,
                    true
                ),
                Interviewer,
            ],
            null,
            [
                new Clip(
                    "E007C001_BRIDGE_WALK.MP4",
                    "25",
                    "14:05:11:00",
                    "E007C001",
                    0,
                    9999,
                    0,
                    490,
                    290,
                    1.7f,
                    true,
                    new Mic("Mix", new Dictionary<string, double> { ["ANSELM"] = 0.75, ["INTERVIEWER"] = 0.6 }, 0.5, 0.04, 0.0008)
                ),
            ]
        ),
    ];

    /// <summary>The loose footage: file, rate, timecode, the script's key and the drawn place.</summary>
    public static IReadOnlyList<(string File, string Rate, string Timecode, string Line, string Place, Person Speaker)> Loose { get; } =
    [
        ("F001C001.MP4", "25", "06:10:00:00", "CABLE_DRUM", "drum", Interviewer),
        ("F001C002.MP4", "25", "06:14:22:00", "RAMP_EMPTY", "ramp", Interviewer),
        ("F001C003.MP4", "25", "06:31:05:12", "BOW_WAVE", "bow", Interviewer),
    ];

    public static Mic CameraMic(double echo) => new("Camera", new Dictionary<string, double>(), 0.3, echo, 0.0012);
}
