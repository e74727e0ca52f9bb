using System.Globalization;
using System.Text.Json.Serialization;
using EmberLane.Core.Captions;

namespace EmberLane.Core.Copies;

/// <summary>As what a copy of a story is written.</summary>
[JsonConverter(typeof(JsonStringEnumConverter<CopyForm>))]
public enum CopyForm
{
    /// <summary>Sound, uncompressed.</summary>
    Wave,

    /// <summary>Sound, small.</summary>
    Mp3,

    /// <summary>Picture and sound.</summary>
    Video,
}

/// <summary>How somebody wants a copy of a story to hear or see.</summary>
public sealed record CopyWish
{
    /// <summary>What it is written as.</summary>
    public CopyForm Form { get; init; }

    /// <summary>Whether it has two channels.</summary>
    public bool IsStereo { get; init; }

    /// <summary>Kilobits a second of its sound where that is made small, 32 to 320.</summary>
    public int Kilobits { get; init; } = 128;

    /// <summary>How loud it is all in all, in tenths of LUFS by EBU R 128, −360 to −60; null leaves it as it is.</summary>
    public int? Loudness { get; init; } = -160;

    /// <summary>Whether people are made alike in loudness.</summary>
    public bool AreEvened { get; init; } = true;

    /// <summary>Whether the noise of each room is made softer.</summary>
    public bool IsQuieted { get; init; }

    /// <summary>The name of its <see cref="CopyShape"/>.</summary>
    public string Shape { get; init; } = CopyShape.Wide.Name;

    /// <summary>Whether pictures are taken from the sources instead of their playing copies.</summary>
    public bool IsFromSources { get; init; }

    /// <summary>Whether the story's name and timecode are seen in it.</summary>
    public bool IsLabelled { get; init; } = true;

    /// <summary>Whether what is said is read in it.</summary>
    public bool HasCaptions { get; init; }

    /// <summary>How large captions are, in hundredths of their usual size, 50 to 200.</summary>
    public int CaptionSize { get; init; } = 100;

    /// <summary>Whether captions stand above instead of below.</summary>
    public bool AreCaptionsAbove { get; init; }

    /// <summary>Whether captions stand on a dark box.</summary>
    public bool HasBox { get; init; } = true;

    /// <summary>Whether the word that is just said stands out in its caption.</summary>
    public bool IsWordMarked { get; init; }

    /// <summary>Characters of a line of captions, 10 to 120.</summary>
    public int CaptionLine { get; init; } = 37;

    /// <summary>Whether it is what is played to who comes by a link to the story.</summary>
    public bool IsForLinks { get; init; }

    /// <summary>The words of an end card, which a viewing copy closes with; empty for none.</summary>
    public string EndCard { get; init; } = "";

    /// <summary>The longest words of an end card, in characters.</summary>
    public const int LongestEnd = 200;

    /// <summary>How long an end card stands (4 s).</summary>
    public static readonly MediaTime EndLasts = MediaTime.FromMilliseconds(4_000);

    /// <summary>How many frames it closes with.</summary>
    public long EndFrames(FrameRate rate) => Form == CopyForm.Video && EndCard.Length > 0 ? rate.NearestFrame(EndLasts) : 0;

    /// <summary>The section's heading or the card that it is of; null for the whole story.</summary>
    public Guid? Only { get; init; }

    /// <summary>The ending of its file.</summary>
    [JsonIgnore]
    public string Ending =>
        Form switch
        {
            CopyForm.Wave => ".wav",
            CopyForm.Mp3 => ".mp3",
            _ => ".mp4",
        };

    /// <summary>Its kind as a browser is told.</summary>
    [JsonIgnore]
    public string MediaType =>
        Form switch
        {
            CopyForm.Wave => "audio/wav",
            CopyForm.Mp3 => "audio/mpeg",
            _ => "video/mp4",
        };

    /// <summary>How its captions are made.</summary>
    [JsonIgnore]
    public CaptionRules Rules => new() { Line = CaptionLine };

    /// <summary>Its picture's size.</summary>
    [JsonIgnore]
    public CopyShape Size => CopyShape.Named(Shape) is var shape && IsFromSources ? shape.Large : shape;

    /// <summary>Throws <see cref="FormatException"/> that says what can not be had.</summary>
    public CopyWish Check()
    {
        _ = CopyShape.Named(Shape);
        _ = Rules.Check();
        return Kilobits is < 32 or > 320
                ? throw new FormatException(Say($"A copy's sound has 32 to 320 kilobits a second, not {Kilobits}."))
            : Loudness is < -360 or > -60 ? throw new FormatException("A copy can be −36 to −6 LUFS loud.")
            : EndCard.Length > LongestEnd
                ? throw new FormatException(Say($"An end card may have {LongestEnd} characters; this has {EndCard.Length}."))
            : CaptionSize is < 50 or > 200 ? throw new FormatException(Say($"Captions can be 50 to 200 % large, not {CaptionSize}."))
            : this;
    }

    /// <summary>A loudness as it is typed, as −16 or -16.5. Throws <see cref="FormatException"/> for what is none.</summary>
    public static int LoudnessOf(string text) =>
        decimal.TryParse(
            text.Trim().Replace('−', '-'),
            NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
            CultureInfo.InvariantCulture,
            out var loudness
        ) && loudness is >= -36 and <= -6
            ? (int)decimal.Round(loudness * 10)
            : throw new FormatException($"“{text}” is no loudness. Type −36 to −6 LUFS, as −16 or −23.");

    /// <summary>What it is, in a few words.</summary>
    [JsonIgnore]
    public string Says =>
        string.Join(
            ", ",
            new[]
            {
                Form switch
                {
                    CopyForm.Wave => IsStereo ? "WAV, stereo" : "WAV, mono",
                    CopyForm.Mp3 => Say($"MP3, {(IsStereo ? "stereo" : "mono")}, {Kilobits} kbit/s"),
                    _ => Say($"MP4, {Shape}, {Size.Width} × {Size.Height}"),
                },
                Loudness is { } loud ? Say($"{loud / 10m:0.#} LUFS").Replace('-', '−') : "as loud as it is",
                AreEvened ? "people evened" : "",
                IsQuieted ? "rooms quieted" : "",
                Form == CopyForm.Video && HasCaptions ? "captions" : "",
                Form == CopyForm.Video && EndCard.Length > 0 ? "end card" : "",
            }.Where(t => t.Length > 0)
        );

    private static string Say(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
