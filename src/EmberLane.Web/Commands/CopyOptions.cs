using System.CommandLine;
using System.Globalization;
using EmberLane.Core.Copies;

namespace EmberLane.Web.Commands;

/// <summary>How <c>ember handoff</c> is told about copies to hear and see.</summary>
internal sealed class CopyOptions
{
    private static readonly CopyWish Usual = new();

    private readonly Option<string> loudness = new("--lufs")
    {
        Description = "How loud a copy is all in all, as -16; “as-is” leaves it.",
        HelpName = "LUFS",
        DefaultValueFactory = _ => "-16",
    };

    private readonly Option<string> shape = new("--shape")
    {
        Description =
            $"Of a viewing copy, and of lists, which then tell what is seen: {string.Join(", ", CopyShape.All.Select(s => s.Name))}.",
        HelpName = "SHAPE",
        DefaultValueFactory = _ => CopyShape.Wide.Name,
    };

    private readonly Option<string> ending = new("--end-card")
    {
        Description = "Words that a viewing copy closes with, for four seconds.",
        HelpName = "WORDS",
        DefaultValueFactory = _ => "",
    };

    private readonly Option<int> kilobits = new("--kilobits")
    {
        Description = "Of its sound, where that is made small.",
        HelpName = "N",
        DefaultValueFactory = _ => Usual.Kilobits,
    };

    private readonly Option<bool> stereo = new("--stereo") { Description = "Two channels of sound." },
        sources = new("--from-sources") { Description = "Pictures from the sources, twice as large, not from the playing copies." },
        captions = new("--with-captions") { Description = "What is said is read in a viewing copy." },
        plain = new("--no-labels") { Description = "No timecode and no name in a viewing copy." },
        uneven = new("--people-as-they-are") { Description = "People are not made alike in loudness." },
        quiet = new("--quiet-rooms") { Description = "The noise of each room is made softer." };

    /// <summary>By what copies are called in <c>--only</c>.</summary>
    public static IReadOnlyList<string> Names { get; } = ["wav", "mp3", "mp4"];

    /// <summary>What was asked.</summary>
    public sealed record Asked(
        string Loudness,
        string Shape,
        int Kilobits,
        bool IsStereo,
        bool IsFromSources,
        bool HasCaptions,
        bool IsPlain,
        bool IsUneven,
        bool IsQuieted,
        string EndCard
    )
    {
        /// <summary>The shape that is asked for, where it is narrower than pictures are filmed.</summary>
        public string? Narrower => Shape == CopyShape.Wide.Name ? null : Shape;

        /// <summary>The copy of this name. Throws <see cref="FormatException"/> for a loudness that is none.</summary>
        public CopyWish WishOf(string name) =>
            new()
            {
                Form =
                    name == "wav" ? CopyForm.Wave
                    : name == "mp3" ? CopyForm.Mp3
                    : CopyForm.Video,
                Loudness = Loudness == "as-is" ? null : CopyWish.LoudnessOf(Loudness),
                Shape = Shape,
                Kilobits = Kilobits,
                IsStereo = IsStereo,
                IsFromSources = IsFromSources,
                HasCaptions = HasCaptions,
                IsLabelled = !IsPlain,
                AreEvened = !IsUneven,
                IsQuieted = IsQuieted,
                EndCard = EndCard.Trim(),
            };
    }

    /// <summary>How loud a copy turned out.</summary>
    public static string Told(double? loudness) =>
        loudness is { } loud
            ? string.Create(CultureInfo.InvariantCulture, $"measured {loud:0.0} LUFS").Replace('-', '−')
            : "too soft or too short to be measured";

    /// <summary>Adds them to a command.</summary>
    public void AddTo(Command command)
    {
        foreach (var option in (Option[])[loudness, shape, kilobits, stereo, sources, captions, plain, uneven, quiet, ending])
        {
            command.Options.Add(option);
        }
    }

    /// <summary>What was asked with them.</summary>
    public Asked Of(ParseResult asked) =>
        new(
            asked.GetValue(loudness)!,
            asked.GetValue(shape)!,
            asked.GetValue(kilobits),
            asked.GetValue(stereo),
            asked.GetValue(sources),
            asked.GetValue(captions),
            asked.GetValue(plain),
            asked.GetValue(uneven),
            asked.GetValue(quiet),
            asked.GetValue(ending)!
        );
}
