using System.Text;
using EmberLane.Core.Captions;
using EmberLane.Core.Handoff;
using EmberLane.Core.Import;
using EmberLane.Core.Media;
using EmberLane.Core.SetFlags;
using EmberLane.Core.Speech;
using EmberLane.Core.Tidy;
using EmberLane.Core.Time;
using EmberLane.Core.Timeline;
using EmberLane.Engines;

namespace EmberLane.Running;

/// <summary>
/// Gives every reader of files good examples with faults put into them. A reader may read them or refuse with its own error; anything else
/// that it throws, or longer than a while, is a finding.
/// </summary>
public sealed class Fuzzer(int seed)
{
    /// <summary>An input that a reader did not stand: which reader, what came of it, and the input itself.</summary>
    public sealed record Finding(string Reader, string Outcome, byte[] Input);

    private sealed record Reader(string Name, byte[] Example, Action<byte[], CancellationToken> Read);

    private static readonly string[] Tokens =
    [
        "-->",
        "<v ",
        "</v>",
        "<00:01.000>",
        "{\\",
        "}",
        "<",
        ">",
        "&lt;",
        "\"",
        "\"\"",
        ",",
        ";",
        "\t",
        "\n",
        "\r\n",
        "\r",
        "\0",
        "\uFEFF",
        "\\ud800",
        "\\u0000",
        "99999999999999999999",
        "-1",
        "1e309",
        "00:00:00:99",
        "24:00:00:00",
        "٣",
        "٠٠:٠١",
        "[[[[[[[[",
        "<a><a><a>",
        "]]>",
        "<!DOCTYPE a>",
        "WEBVTT",
        "TITLE:",
        "FCM:",
        "D    999",
        "null",
        "true",
        "𝒳",
        "\u202E",
        "́",
    ];

    private readonly Random random = new(seed);
    private readonly string scratch = Path.Combine(
        Path.GetTempPath(),
        FormattableString.Invariant($"ember-fuzz-{Environment.ProcessId}-{seed}.wav")
    );

    /// <summary>How many readers there are.</summary>
    public int Count => Readers().Count;

    /// <summary>Tries so many inputs, as many for each reader; returns what was found, at most twenty.</summary>
    public IReadOnlyList<Finding> Run(int inputs, TimeSpan each)
    {
        var readers = Readers();
        var findings = new List<Finding>();
        try
        {
            // An example that is refused as it is would try little.
            foreach (var reader in readers)
            {
                reader.Read(reader.Example, CancellationToken.None);
            }
            for (var i = 0; i < inputs && findings.Count < 20; i++)
            {
                var reader = readers[i % readers.Count];
                var input = Faulty(reader.Example);
                if (Outcome(reader, input, each) is { } outcome)
                {
                    findings.Add(new Finding(reader.Name, outcome, input));
                }
            }
        }
        finally
        {
            File.Delete(scratch);
        }
        return findings;
    }

    private static string? Outcome(Reader reader, byte[] input, TimeSpan each)
    {
        using var limit = new CancellationTokenSource(each);
        var began = DateTime.UtcNow;
        try
        {
            reader.Read(input, limit.Token);
        }
        catch (FormatException)
        {
            // Refused with its own error.
        }
        catch (OperationCanceledException)
        {
            return "took too long";
        }
        catch (Exception e)
        {
            return $"{e.GetType().Name}: {e.Message}";
        }
        return DateTime.UtcNow - began > each ? "took too long" : null;
    }

    private byte[] Faulty(byte[] example)
    {
        var bytes = example.ToList();
        for (var n = random.Next(1, 6); n > 0 && bytes.Count > 0; n--)
        {
            int at = random.Next(bytes.Count),
                length = Math.Min(bytes.Count - at, random.Next(1, 40));
            switch (random.Next(7))
            {
                case 0:
                    bytes[at] = (byte)random.Next(256);
                    break;
                case 1:
                    bytes[at] ^= (byte)(1 << random.Next(8));
                    break;
                case 2:
                    bytes.RemoveRange(at, length);
                    break;
                case 3:
                    bytes.InsertRange(at, bytes.GetRange(at, length));
                    break;
                case 4:
                    bytes.InsertRange(at, Encoding.UTF8.GetBytes(Tokens[random.Next(Tokens.Length)]));
                    break;
                case 5:
                    bytes.RemoveRange(at, bytes.Count - at);
                    break;
                default:
                    bytes.InsertRange(at, Enumerable.Repeat(bytes[at], random.Next(1, 2_000)));
                    break;
            }
        }
        return [.. bytes];
    }

    private List<Reader> Readers()
    {
        static byte[] Text(string text) => Encoding.UTF8.GetBytes(text);
        void Typed(string name, byte[] input, CancellationToken cancel) => TextFiles.Read(name, input, cancel);
        return
        [
            new(
                "SubRip",
                Text(
                    "1\n00:00:01,000 --> 00:00:02,500\n<i>MAREN:</i> the cable {\\an8}was\nsinging\n\n2\n00:00:03,000 --> "
                        + "00:00:04,000\n&lt;b&gt; words\n"
                ),
                (b, c) => Typed("a.srt", b, c)
            ),
            new(
                "WebVTT",
                Text(
                    "WEBVTT\n\nNOTE hidden\n\n1\n00:01.000 --> 00:02.000 align:start\n<v Maren Oakhurst>the <00:01.500>cable</v> "
                        + "was\n\n00:00:03.000 --> 00:00:04.000\n<v.loud Tobias>singing &amp; so\n"
                ),
                (b, c) => Typed("a.vtt", b, c)
            ),
            new(
                "CSV",
                Text(
                    "start,end,name,words\r\n00:00:01.000,00:00:02.000,Maren,\"the cable, \"\"was\"\"\"\r\n0:03,0:04,'=Tobias,singing\r\n"
                ),
                (b, c) => Typed("a.csv", b, c)
            ),
            new(
                "text",
                Text(
                    "[00:01:05] MAREN: the cable was\n00:01:09 Tobias Fenn: singing\nMaren Oakhurst 00:01:20\nthat morning\n1:02 we left\n"
                ),
                (b, c) => Typed("a.txt", b, c)
            ),
            new(
                "words JSON",
                Text(
                    "{\"schema\":\"ember-lane.words/1\",\"language\":\"en\","
                        + "\"words\":[{\"t\":\"ferry\",\"s\":12.31,\"e\":12.72,\"c\":0.93,\"v\":\"Maren\",\"vc\":0.5},"
                        + "{\"t\":\"boat\",\"s\":13,\"e\":14}]}"
                ),
                (b, c) => Typed("a.json", b, c)
            ),
            new(
                "words JSON of a command",
                Text("{\"schema\":\"ember-lane.words/1\",\"words\":[{\"t\":\"a\",\"s\":0,\"e\":1}]}"),
                (b, _) => WordsJson.Read(Encoding.UTF8.GetString(b))
            ),
            new(
                "written script",
                Text("MAREN: Every boat has a last day.\n(She turns.)\nTOBIAS: [off] And nobody rings a bell for it.\n"),
                (b, _) => ScriptText.Read(TextFiles.Decode(b))
            ),
            new(
                "WebVTT of a command",
                Text("WEBVTT\n\n00:01.000 --> 00:02.000\n<v A>one two\n"),
                (b, _) => WebVtt.ReadWords(Encoding.UTF8.GetString(b))
            ),
            new("Word", HostileFiles.WordTables(2), (b, c) => WordDocument.ReadText(new MemoryStream(b), c)),
            new(
                "Word's paragraphs",
                Text(
                    "<w:p><w:r><w:t>the cable</w:t></w:r><w:r><w:tab/><w:t xml:space=\"preserve\"> was</w:t></w:r></w:p>"
                        + "<w:tbl><w:tr><w:tc><w:p><w:r><w:t>0:03</w:t></w:r></w:p></w:tc></w:tr></w:tbl>"
                ),
                (b, c) => WordDocument.ReadText(new MemoryStream(HostileFiles.WordOf(b)), c)
            ),
            new(
                "highlighted Word",
                Text(
                    "<w:p><w:r><w:t>the cable was </w:t></w:r><w:r><w:rPr><w:highlight w:val=\"yellow\"/></w:rPr><w:t>singing"
                        + "</w:t></w:r></w:p>"
                        + "<w:p><w:r><w:rPr><w:shd w:val=\"clear\" w:fill=\"00FF00\"/></w:rPr><w:t>we left</w:t></w:r></w:p>"
                ),
                (b, c) => WordDocument.ReadMarked(new MemoryStream(HostileFiles.WordOf(b)), c)
            ),
            new(
                "decision list",
                Text(
                    "TITLE: SLACK WATER\nFCM: NON-DROP FRAME\n\n001  A001C002 V     C        01:02:10:05 01:02:14:17 01:00:00:00 "
                        + "01:00:04:12\n* FROM CLIP NAME: A.MOV\n002  SND01    AA    C        07:44:02:11 07:44:06:23 01:00:00:00 "
                        + "01:00:04:12\nAUD  3  4\n003  B004     V     D    012 02:10:00:00 02:10:05:00 01:00:04:12 01:00:09:12\n"
                ),
                (b, _) => EdlEvents.Timeline(EdlReader.Read(Encoding.UTF8.GetString(b), FrameRate.R25))
            ),
            new(
                "timeline",
                Text(OtioWriter.Write(SmallTimeline(), m => "file:///media/" + m.FileName)),
                (b, _) => EdlEvents.Of(OtioReader.Read(Encoding.UTF8.GetString(b), FrameRate.R25))
            ),
            new(
                "paper edit",
                Text("Interview 1\n00:01:05 - 00:01:20 Maren: the cable\n01:00:10:05 to 01:00:14:00 A001C002\n0:03-0:09\tTobias\n"),
                (b, c) => PaperRanges.Read(TextFiles.Decode(b), c)
            ),
            new(
                "translator's table",
                Text("\"time\",\"speaker\",\"text\",\"translation\"\r\n01:00:01:00,Maren,\"the cable\",\"das Kabel\"\r\n"),
                (b, c) => TranslationTable.Read(TextFiles.Decode(b), c)
            ),
            new(
                "flags from the set",
                Text("time,kind,note\r\n10:02:11,good,the bell\r\n10:02:15:03,again,\"wind, in the lav\"\r\n"),
                (b, _) => SetFlagTable.Read(TextFiles.Decode(b), new DateOnly(2026, 6, 1))
            ),
            new(
                "manifest",
                Text(
                    "{\"schema\":\"ember-lane.package/1\",\"production\":\"Slack Water\",\"story\":\"Low water\","
                        + "\"files\":[{\"name\":\"a.edl\",\"sha256\":\"00ff\"}],"
                        + "\"sources\":[{\"name\":\"a.mov\",\"path\":\"/media/a.mov\",\"size\":12,\"sha256\":\"\"}]}"
                ),
                (b, _) => Manifest.Read(TextFiles.Decode(b))
            ),
            new(
                "recorder's notes",
                Text(
                    "<?xml version=\"1.0\"?><BWFXML><SCENE>14</SCENE><TAKE>2</TAKE>"
                        + "<TRACK_LIST><TRACK><INTERLEAVE_INDEX>1</INTERLEAVE_INDEX><NAME>Lav Ilse</NAME></TRACK></TRACK_LIST></BWFXML>"
                ),
                (b, _) => RecorderNotes.Read(Encoding.UTF8.GetString(b))
            ),
            new(
                "WAV",
                HostileFiles.Wave(new byte[64], ("bext", new byte[610]), ("iXML", Text("<BWFXML><SCENE>1</SCENE></BWFXML>"))),
                (b, _) =>
                {
                    File.WriteAllBytes(scratch, b);
                    WaveChunks.Notes(scratch);
                }
            ),
        ];
    }

    private static EditedTimeline SmallTimeline()
    {
        var count = new TimecodeCount(FrameRate.R25, false);
        Clip Of(int group, string reel, long from, long frames) =>
            new(
                group,
                "MAREN / WHY",
                new TimelineMedia(null, reel, reel + ".MOV", 2, null, count),
                new SourceRange(new SourceTime(FrameRate.R25.TimeOf(from)), new SourceTime(FrameRate.R25.TimeOf(from + frames)))
            );
        return new EditedTimeline(
            "SLACK WATER",
            count.Parse("01:00:00:00"),
            [
                new Track(
                    TrackKind.Picture,
                    "V1",
                    [
                        Of(1, "A001C002", 90_000, 50),
                        new Transition(2, FrameRate.R25.TimeOf(12)),
                        Of(2, "B004", 5_000, 60),
                        new Gap(3, "a space", FrameRate.R25.TimeOf(25)),
                    ]
                ),
                new Track(TrackKind.Sound, "A1", [Of(1, "SND01", 70_000, 110)]),
            ],
            []
        );
    }
}
