using EmberLane.Core.Copies;

namespace EmberLane.Engines.Copies;

/// <summary>
/// All that a copy is made of: what is heard and seen, who speaks when, how long it is, its rate and first label, and what is read in it as
/// a file of Advanced SubStation Alpha.
/// </summary>
public sealed record CopyParts(
    IReadOnlyList<SoundPiece> Heard,
    IReadOnlyList<SpeakerRun> Speakers,
    IReadOnlyList<FramePiece> Seen,
    long Frames,
    FrameRate Rate,
    Timecode Start,
    string Titles
)
{
    /// <summary>Samples of its sound at 48 kHz.</summary>
    public long Samples => Rate.TimeOf(Frames).ToSamplesFloor(RawSound.Rate);
}

/// <summary>What was made: how loud it is all in all (LUFS), null where that can not be measured.</summary>
public sealed record CopyMade(double? Loudness);

/// <summary>Makes a copy of a story to hear or see.</summary>
public static class StoryCopy
{
    /// <summary>Above this (dB of full scale) peaks are held.</summary>
    private const double Ceiling = -1.5;

    /// <summary>So near (LU) to what was wished is near enough.</summary>
    private const double Near = 0.25;

    /// <summary>So often it is made louder again where holding its peaks, or making it small, has taken some of it.</summary>
    private const int Rounds = 2;

    /// <summary>
    /// Writes the copy to <paramref name="output"/>, whole or not at all: lays the sound, evens people, measures how loud it is, and writes
    /// it with the gain that it needs. What it needs on the way lies in <paramref name="folder"/>. Throws <see cref="ToolException"/> when
    /// a file can not be read.
    /// </summary>
    public static async Task<CopyMade> MakeAsync(
        CopyParts parts,
        CopyWish wish,
        string folder,
        string output,
        Action<string, MediaTime>? progress,
        CancellationToken cancel
    )
    {
        var stem = Path.Combine(folder, FormattableString.Invariant($"copy-{Guid.NewGuid():N}"));
        using var sound = await SoundAsync(parts, wish, stem, progress, cancel);
        progress?.Invoke("measuring how loud it is", MediaTime.Zero);
        var (gain, isHeld) = await GainAsync(sound, wish, cancel);
        if (isHeld && wish.Form != CopyForm.Wave)
        {
            // Quicker than writing it more than once.
            gain = await HeldGainAsync(sound, wish, gain, cancel);
        }
        if (wish.Form == CopyForm.Video)
        {
            await SeenAsync(parts, wish, stem + ".titles.part", sound, gain, isHeld, output, progress, cancel);
            return new CopyMade(await Ffmpeg.LoudnessOfAsync(output, cancel));
        }
        progress?.Invoke("writing it", MediaTime.Zero);
        for (var round = 0; ; round++)
        {
            var loudness = await Ffmpeg.EncodeHeardAsync(sound, wish, gain, isHeld, output, cancel);
            if (wish.Form == CopyForm.Mp3)
            {
                // Made small it is a little softer than it was.
                loudness = await Ffmpeg.LoudnessOfAsync(output, cancel);
            }
            if (round == Rounds || wish.Loudness / 10.0 - loudness is not { } apart || Math.Abs(apart) <= Near)
            {
                return new CopyMade(loudness);
            }
            gain += apart;
        }
    }

    private static async Task<RawSound> SoundAsync(
        CopyParts parts,
        CopyWish wish,
        string stem,
        Action<string, MediaTime>? progress,
        CancellationToken cancel
    )
    {
        var channels = wish.IsStereo ? 2 : 1;
        var sound = new RawSound(stem + ".loud.part", channels, parts.Samples);
        try
        {
            var floors = await StorySound.LayAsync(
                parts.Heard,
                new Dictionary<string, double>(),
                sound,
                at => progress?.Invoke("laying the sound", at),
                cancel
            );
            if (wish.IsQuieted)
            {
                var loud = sound;
                sound = new RawSound(stem + ".quiet.part", channels, parts.Samples);
                loud.Dispose();
                await StorySound.LayAsync(parts.Heard, floors, sound, at => progress?.Invoke("quieting the rooms", at), cancel);
            }
            if (wish.AreEvened)
            {
                await EvenAsync(parts.Speakers, sound, cancel);
            }
            return sound;
        }
        catch
        {
            sound.Dispose();
            throw;
        }
    }

    private static async Task EvenAsync(IReadOnlyList<SpeakerRun> speakers, RawSound sound, CancellationToken cancel)
    {
        var people = new Dictionary<string, (double, MediaTime)>();
        foreach (var who in speakers.Select(s => s.Who).Where(w => w.Length > 0).Distinct())
        {
            var speaks = MediaTime.Zero;
            var loudness = await Ffmpeg.LoudnessAsync(
                async (stream, stop) => speaks = await StorySound.WriteOfAsync(sound, speakers, who, stream, stop),
                sound.Channels,
                cancel
            );
            people[who] = (loudness ?? double.NaN, speaks);
        }
        var gains = Evening.Of(people);
        if (gains.Count > 0)
        {
            StorySound.Even(sound, speakers, gains, cancel);
        }
    }

    // By how much it is made louder, and whether its peaks have to be held then.
    private static async Task<(double Gain, bool IsHeld)> GainAsync(RawSound sound, CopyWish wish, CancellationToken cancel)
    {
        var peak = StorySound.Peak(sound, cancel);
        var gain =
            wish.Loudness is { } tenths && await Ffmpeg.LoudnessAsync(sound, 0, isHeld: false, cancel) is { } loudness
                ? (tenths / 10.0) - loudness
                : 0;
        return (gain, peak + gain > Ceiling);
    }

    // Holding takes some of it: as much louder again.
    private static async Task<double> HeldGainAsync(RawSound sound, CopyWish wish, double gain, CancellationToken cancel) =>
        gain + ((wish.Loudness / 10.0) - await Ffmpeg.LoudnessAsync(sound, gain, isHeld: true, cancel) ?? 0);

    private static async Task SeenAsync(
        CopyParts parts,
        CopyWish wish,
        string titles,
        RawSound sound,
        double gain,
        bool isHeld,
        string output,
        Action<string, MediaTime>? progress,
        CancellationToken cancel
    )
    {
        try
        {
            await File.WriteAllTextAsync(titles, parts.Titles, cancel);
            await Ffmpeg.EncodeSeenAsync(
                (stream, stop) =>
                    StoryFrames.WriteAsync(
                        parts.Seen,
                        parts.Rate,
                        wish.Size,
                        stream,
                        frame => progress?.Invoke("writing pictures", parts.Rate.TimeOf(frame)),
                        stop
                    ),
                sound,
                wish,
                parts.Rate,
                parts.Start,
                titles,
                gain,
                isHeld,
                output,
                cancel
            );
        }
        finally
        {
            File.Delete(titles);
        }
    }
}
