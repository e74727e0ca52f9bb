using System.Globalization;
using EmberLane.Engines;

namespace EmberLane.Application.Hands;

/// <summary>A copy of a file that a browser can play, or a picture of one of its moments.</summary>
public static class CopyErrand
{
    /// <summary>A copy may be longer or shorter than its file by this (3 s): files end their streams at different times.</summary>
    private static readonly MediaTime Slack = MediaTime.FromMilliseconds(3_000);

    private sealed record What(long? PictureAt);

    /// <summary>The playing copy of a file of this length.</summary>
    public static Errand Playing(string title, string footage, MediaTime length, string output) =>
        Of(title, footage, length, output, new What(null));

    /// <summary>A small picture of a moment of a file.</summary>
    public static Errand Picture(string title, string footage, MediaTime at, string output) =>
        Of(title, footage, MediaTime.Zero, output, new What(at.Units));

    private static Errand Of(string title, string footage, MediaTime length, string output, What what) =>
        new(ErrandKinds.Copies, title, System.Text.Json.JsonSerializer.Serialize(what), length) { Footage = footage, Output = output };

    internal static async Task<string> DoAsync(Errand errand, ErrandProgress progress, CancellationToken cancel)
    {
        string footage = Asked.Footage(errand),
            output = Asked.Output(errand);
        if (Asked.Read<What>(errand).PictureAt is { } units)
        {
            await Ffmpeg.MakeThumbnailAsync(footage, new MediaTime(units), output, cancel);
        }
        else
        {
            var facts = await MediaProbe.MeasureAsync(footage, cancel);
            await Ffmpeg.MakeProxyAsync(footage, facts, output, at => progress(at, ""), cancel);
        }
        return "";
    }

    internal static async Task CheckAsync(Errand errand, CancellationToken cancel)
    {
        var output = Asked.Output(errand);
        if (Asked.Read<What>(errand).PictureAt is not null)
        {
            if (!IsJpeg(output))
            {
                throw new FormatException("What came is no picture.");
            }
            return;
        }
        try
        {
            var length = (await MediaProbe.MeasureAsync(output, cancel)).Duration;
            if (length > errand.Length + Slack || length < errand.Length - Slack)
            {
                throw new FormatException(
                    string.Create(CultureInfo.InvariantCulture, $"The copy that came lasts {length}, its file {errand.Length}.")
                );
            }
        }
        catch (UnreadableMediaException odd)
        {
            throw new FormatException("The copy that came can not be read.", odd);
        }
    }

    private static bool IsJpeg(string path)
    {
        Span<byte> head = stackalloc byte[3];
        using var file = File.OpenRead(path);
        return file.ReadAtLeast(head, head.Length, throwOnEndOfStream: false) == head.Length
            && head.SequenceEqual<byte>([0xFF, 0xD8, 0xFF]);
    }
}
