using System.Globalization;
using EmberLane.Core;
using EmberLane.Core.Media;
using EmberLane.Core.Time;

namespace EmberLane.Engines.Tests.Copies;

/// <summary>A playing copy without stretches of it: what stays is what was there, bit for bit and at its time.</summary>
public sealed class WithheldPictureTests : IDisposable
{
    private readonly Clips clips = new();

    public void Dispose() => clips.Dispose();

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static SourceRange Stretch(long from, long to) =>
        new(new SourceTime(MediaTime.FromMilliseconds(from)), new SourceTime(MediaTime.FromMilliseconds(to)));

    // Each picture that is shown: when, in milliseconds, and a sum of what is in it.
    private static async Task<List<(long At, string Sum)>> PicturesAsync(string path)
    {
        var sums = await Tool.ReadAsync(
            "ffmpeg",
            ["-v", "error", "-i", path, "-map", "0:v:0", "-fps_mode", "passthrough", "-enc_time_base", "1/1000", "-f", "framemd5", "-"],
            TimeSpan.FromMinutes(1),
            Cancel
        );
        return
        [
            .. sums.Split('\n')
                .Where(l => l.Length > 0 && l[0] != '#')
                .Select(l => l.Split(','))
                .Select(f => (long.Parse(f[2], NumberStyles.AllowLeadingWhite, CultureInfo.InvariantCulture), f[5].Trim())),
        ];
    }

    [Fact]
    public async Task What_is_of_a_stretch_is_not_in_the_file_and_all_else_is_as_it_was()
    {
        var whole = await clips.CountedAsync(FrameRate.R25, 12);
        var output = clips.PathOf("without.mp4");
        await Ffmpeg.WithholdPictureAsync(whole, [Stretch(3_100, 3_400), Stretch(8_000, 9_990)], output, null, Cancel);
        var (before, after) = (await PicturesAsync(whole), await PicturesAsync(output));
        Assert.Equal(300, before.Count);
        Assert.Equal([.. before.Where(p => after.Contains(p))], after);
        Assert.DoesNotContain(after, p => p.At is >= 3_100 and < 3_400 or >= 8_000 and < 9_990);
        // Pictures are whole every two seconds: that far a stretch may reach, and no further.
        Assert.Equal(
            [.. before.Where(p => p.At is < 3_000 or >= 4_000 and < 7_900 or >= 10_000)],
            after.Where(p => p.At is < 3_000 or >= 4_000 and < 7_900 or >= 10_000)
        );
    }

    [Fact]
    public async Task It_has_no_sound_and_is_whole_where_nothing_of_it_is_withheld()
    {
        var whole = clips.PathOf("talk.mp4");
        await Tool.ReadAsync(
            "ffmpeg",
            ["-v", "error", "-f", "lavfi", "-i", "testsrc2=s=64x36:r=25:d=2", "-f", "lavfi", "-i", "sine=d=2", "-c:a", "aac", whole],
            TimeSpan.FromMinutes(1),
            Cancel
        );
        var output = clips.PathOf("mute.mp4");
        await Ffmpeg.WithholdPictureAsync(whole, [Stretch(60_000, 61_000)], output, null, Cancel);
        Assert.Equal(await PicturesAsync(whole), await PicturesAsync(output));
        Assert.Empty((await MediaProbe.MeasureAsync(output, Cancel)).Sound);
        Assert.NotEmpty((await MediaProbe.MeasureAsync(whole, Cancel)).Sound);
    }
}
