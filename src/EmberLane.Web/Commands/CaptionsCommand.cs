using System.CommandLine;
using System.Text;
using EmberLane.Core;
using EmberLane.Core.Captions;
using EmberLane.Core.Import;
using EmberLane.Core.Speech;

namespace EmberLane.Web.Commands;

/// <summary><c>ember captions WORDS.json --out FILE.srt|FILE.vtt</c>: captions of recognised words.</summary>
internal static class CaptionsCommand
{
    private const long MostBytes = 500 << 20;

    private static readonly CaptionRules Usual = new();

    public static Command Make(TextWriter output)
    {
        var words = new Argument<string>("WORDS.json") { Description = "Words as docs/formats.md describes them." };
        var file = new Option<string>("--out")
        {
            Description = "Where to: .srt or .vtt.",
            HelpName = "FILE",
            Required = true,
        };
        var line = new Option<int>("--line") { Description = "Characters a line.", DefaultValueFactory = _ => Usual.Line };
        var lines = new Option<int>("--lines") { Description = "Lines a caption.", DefaultValueFactory = _ => Usual.Lines };
        var speed = new Option<int>("--speed") { Description = "Characters a second.", DefaultValueFactory = _ => Usual.Speed };
        var shortest = Seconds("--shortest", "How long a caption stands at least, in seconds.", Usual.Shortest);
        var longest = Seconds("--longest", "How long at most, in seconds.", Usual.Longest);
        var gap = Seconds("--gap", "What lies between two captions at least, in seconds.", Usual.Gap);
        var command = new Command("captions", "Captions of words, as SubRip or WebVTT.")
        {
            words,
            file,
            line,
            lines,
            speed,
            shortest,
            longest,
            gap,
        };
        command.SetAction(asked =>
        {
            var rules = new CaptionRules
            {
                Line = asked.GetValue(line),
                Lines = asked.GetValue(lines),
                Speed = asked.GetValue(speed),
                Shortest = Time(asked.GetValue(shortest)),
                Longest = Time(asked.GetValue(longest)),
                Gap = Time(asked.GetValue(gap)),
            };
            Run(asked.GetValue(words)!, asked.GetValue(file)!, Checked(rules), output);
            return 0;
        });
        return command;
    }

    private static Option<decimal> Seconds(string name, string description, MediaTime usual)
    {
        var option = new Option<decimal>(name)
        {
            Description = description,
            HelpName = "SECONDS",
            DefaultValueFactory = _ => (decimal)usual.Units / MediaTime.UnitsPerSecond,
        };
        option.Validators.Add(asked =>
        {
            if (asked.Tokens.Count > 0 && asked.GetValueOrDefault<decimal>() is < 0 or > 60)
            {
                asked.AddError($"{name} takes 0 to 60 seconds.");
            }
        });
        return option;
    }

    private static MediaTime Time(decimal seconds) => MediaTime.FromMilliseconds((long)decimal.Round(seconds * 1000));

    private static CaptionRules Checked(CaptionRules rules)
    {
        try
        {
            return rules.Check();
        }
        catch (FormatException bad)
        {
            throw new ArgumentException(bad.Message, bad);
        }
    }

    private static void Run(string words, string file, CaptionRules rules, TextWriter output)
    {
        var isVtt = Path.GetExtension(file).Equals(".vtt", StringComparison.OrdinalIgnoreCase);
        if (!isVtt && !Path.GetExtension(file).Equals(".srt", StringComparison.OrdinalIgnoreCase))
        {
            throw new ArgumentException($"{Path.GetFileName(file)}: captions are written as .srt or .vtt. Name the file so.");
        }
        var captions = CommandFiles.Named(
            words,
            () => CaptionMaker.Make(WordsJson.Read(TextFiles.Decode(CommandFiles.Bytes(words, MostBytes))).Words, rules, [])
        );
        CommandFiles.Write(file, new UTF8Encoding(false).GetBytes(isVtt ? CaptionFiles.WebVtt(captions) : CaptionFiles.SubRip(captions)));
        output.WriteLine($"{Application.Rooms.Many.Of(captions.Count, "caption")} in {file}");
    }
}
