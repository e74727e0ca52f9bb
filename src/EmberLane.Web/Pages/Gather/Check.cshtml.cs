using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.People;
using EmberLane.Core.Sync;
using EmberLane.Engines;
using EmberLane.Engines.Sync;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Gather;

/// <summary>Checks one source's place against the sitting's reference, by eye and by ear, and mends it.</summary>
[Needs(Rights.Log)]
public sealed class CheckModel(Footage footage, Desk desk, SyncSounds sounds, SourceFiles files, Listening listening)
    : LiveRoom(footage, desk)
{
    private const int Columns = 500;

    /// <summary>No moment of a sitting lies further from its zero (ten days) than this.</summary>
    private const long MostMilliseconds = 864_000_000;

    private static readonly MediaTime Listened = MediaTime.FromMilliseconds(6_000),
        Close = MediaTime.FromMilliseconds(2_000);

    /// <summary>Widths that can be looked at, in milliseconds; 0 is the whole sitting.</summary>
    public static IReadOnlyList<(long Milliseconds, string Name)> Zooms { get; } =
    [
        (0, "whole sitting"),
        (600_000, "10 min"),
        (60_000, "1 min"),
        (10_000, "10 s"),
        (2_000, "2 s"),
        (200, "0.2 s"),
        (20, "20 ms"),
        (2, "2 ms"),
    ];

    private readonly Footage footage = footage;

    public override string Room => "Gather";

    public Sitting Sitting { get; private set; } = null!;

    public Source Checked { get; private set; } = null!;

    public Source? Reference { get; private set; }

    /// <summary>The middle of the drawing on the sitting's clock, in milliseconds, and the chosen width.</summary>
    public long At { get; private set; }

    public long Zoom { get; private set; }

    public SittingRange Shown { get; private set; }

    public string ShownFrom => Label(Shown.In);

    public string ShownTo => Label(Shown.Out);

    public IReadOnlyList<(float Low, float High)>? Above { get; private set; }

    public IReadOnlyList<(float Low, float High)>? Below { get; private set; }

    /// <summary>Whether the drawing shows the curve of the samples rather than their loudness.</summary>
    public bool IsCurve => Zoom is > 0 and <= 20;

    public ClockMap Place => Checked.Place ?? default;

    /// <summary>A frame of the source's picture, or of 25 a second where it has none.</summary>
    public FrameRate Frames => Checked.Facts.Picture?.Rate ?? FrameRate.R25;

    /// <summary>The address of another part of the clock, or another width.</summary>
    public string View(long at, long zoom) => FormattableString.Invariant($"{Here}?at={at}&zoom={zoom}");

    /// <summary>Where a change is sent, so that the same part is shown after it.</summary>
    public string Post(string handler) => FormattableString.Invariant($"{Here}?handler={handler}&at={At}&zoom={Zoom}");

    public string Here => FormattableString.Invariant($"/productions/{Production.Id}/gather/check/{Checked.Id}");

    public async Task<IActionResult> OnGetAsync(long source, long? at, long? zoom) =>
        await ShowAsync(source, at, zoom)
            ? IsFragment
                ? Partial("_Check", this)
                : Page()
            : NotFound();

    /// <summary>Six seconds of both around a moment, as they lie: together, or the reference left and the source right.</summary>
    [Needs(Rights.Listen)]
    public async Task<IActionResult> OnGetListenAsync(long source, long at, bool apart)
    {
        if (!Find(source) || Reference is null || Checked.Facts.Channels == 0)
        {
            return NotFound();
        }
        using var turn = listening.Take();
        if (turn is null)
        {
            return Refused(Listening.Busy, StatusCodes.Status429TooManyRequests);
        }
        var from = new SittingTime(
            MediaTime.FromMilliseconds(Math.Clamp(at, -MostMilliseconds, MostMilliseconds)) - new MediaTime(Listened.Units / 2)
        );
        try
        {
            var one = await SoundExtract.ReadAsync(
                files.Open(Reference),
                Reference.Facts,
                (Reference.Place ?? default).ToSource(from).FromZero,
                Listened,
                HttpContext.RequestAborted
            );
            var other = await SoundExtract.ReadAsync(
                files.Open(Checked),
                Checked.Facts,
                Place.ToSource(from).FromZero,
                Listened,
                HttpContext.RequestAborted
            );
            return File(SoundExtract.Wav(one, other, apart), "audio/wav");
        }
        catch (Exception failed) when (failed is ToolException or FileNotFoundException)
        {
            return Refused(failed.Message);
        }
    }

    /// <summary>Moves the source by frames, milliseconds or samples of 48 kHz; later when positive.</summary>
    public Task<IActionResult> OnPostNudgeAsync(long source, long at, long zoom, string unit, int by) =>
        ChangeAsync(
            source,
            at,
            zoom,
            placement =>
            {
                var step = unit switch
                {
                    "frame" => new MediaTime(
                        Exact.RoundDivide((Int128)by * MediaTime.UnitsPerSecond * Frames.Denominator, Frames.Numerator)
                    ),
                    "ms" => MediaTime.FromMilliseconds(by),
                    "sample" => MediaTime.FromSamples(by, SoundExtract.Rate),
                    _ => throw new EditRefusedException("A place is nudged by frame, ms or sample."),
                };
                return PlaceSource.Moved(placement, (placement.Place ?? default).Start + step);
            }
        );

    /// <summary>Sets the offset as typed, in seconds.</summary>
    public Task<IActionResult> OnPostSetAsync(long source, long at, long zoom, string? offset) =>
        ChangeAsync(
            source,
            at,
            zoom,
            placement =>
                decimal.TryParse(
                    (offset ?? "").Trim().Replace('−', '-').Replace(',', '.'),
                    NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                    CultureInfo.InvariantCulture,
                    out var seconds
                )
                && Math.Abs(seconds) < 1_000_000
                    ? PlaceSource.Moved(placement, new SittingTime(MediaTime.FromSecondsRounded(seconds)))
                    : throw new EditRefusedException("Give the offset in seconds, for example 12.480 or −3.2.")
        );

    public Task<IActionResult> OnPostAcceptAsync(long source, long at, long zoom) => ChangeAsync(source, at, zoom, PlaceSource.Accepted);

    /// <summary>Gives the place back to sync, which then sets it when it runs again.</summary>
    public Task<IActionResult> OnPostReleaseAsync(long source, long at, long zoom) =>
        ChangeAsync(source, at, zoom, placement => placement with { ByHand = false });

    public async Task<IActionResult> OnPostUndoAsync(long source, long at, long zoom, bool redo)
    {
        if (!Find(source))
        {
            return NotFound();
        }
        string? said = null;
        Message =
            Try(
                NewsOf.Gather,
                () =>
                    said = footage.StepPlacing(Sitting.Id, redo, Who) switch
                    {
                        null => StepWords.Of(null, redo),
                        { } changed when changed != source =>
                            $"Your last change was to {footage.Source(changed)?.Name}; {(redo ? "it is made again" : "it is taken back")}.",
                        _ => null,
                    }
            ) ?? said;
        return await ShownAsync(source, at, zoom);
    }

    private async Task<IActionResult> ChangeAsync(long source, long at, long zoom, Func<Placement, Placement> change)
    {
        if (!Find(source))
        {
            return NotFound();
        }
        Message = Try(
            NewsOf.Gather,
            () =>
            {
                var others = footage
                    .SourcesOf(Sitting.Id)
                    .Where(s => s.Place is not null && s.Id != source)
                    .Select(s => s.Place!.Value.Fill(s.Facts.Duration))
                    .ToList();
                var beside = others.Count == 0 ? (SittingRange?)null : new SittingRange(others.Min(o => o.In), others.Max(o => o.Out));
                footage.PlaceByHand(source, was => PlaceSource.Believable(change(was), Checked.Facts.Duration, beside), Who);
            }
        );
        return await ShownAsync(source, at, zoom);
    }

    private async Task<IActionResult> ShownAsync(long source, long at, long zoom)
    {
        Response.Headers["HX-Trigger"] = "changed";
        if (!IsFragment && Message is null)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/gather/check/{source}?at={at}&zoom={zoom}"));
        }
        return await ShowAsync(source, at, zoom)
            ? IsFragment
                ? Partial("_Check", this)
                : Page()
            : NotFound();
    }

    private bool Find(long source)
    {
        if (footage.Source(source) is not { SittingId: { } id } found || SittingHere(id) is not { } sitting)
        {
            return false;
        }
        (Checked, Sitting) = (found, sitting);
        Reference = sitting.SoundSourceId is { } sound && sound != source ? footage.Source(sound) : null;
        return true;
    }

    private async Task<bool> ShowAsync(long source, long? at, long? zoom)
    {
        if (!Find(source))
        {
            return false;
        }
        var fills = footage
            .SourcesOf(Sitting.Id)
            .Where(s => s.Place is not null || s.Id == source)
            .Select(s => (s.Place ?? default).Fill(s.Facts.Duration))
            .ToList();
        SittingRange whole = new(fills.Min(f => f.In), fills.Max(f => f.Out)),
            mine = Place.Fill(Checked.Facts.Duration);
        Zoom = Zooms.Any(z => z.Milliseconds == zoom) ? zoom!.Value : 10_000;
        At = Math.Clamp(
            at is { } asked
                ? Math.Clamp(asked, -MostMilliseconds, MostMilliseconds)
                : (mine.In.FromZero + new MediaTime(mine.Length.Units / 2)).ToMillisecondsRounded(),
            whole.In.FromZero.ToMillisecondsRounded(),
            whole.Out.FromZero.ToMillisecondsRounded()
        );
        var half = new MediaTime(MediaTime.FromMilliseconds(Zoom).Units / 2);
        var middle = new SittingTime(MediaTime.FromMilliseconds(At));
        Shown = Zoom == 0 ? whole : new SittingRange(middle - half, middle + half);
        try
        {
            Above = Reference is null ? null : await DrawAsync(Reference);
            Below = await DrawAsync(Checked);
        }
        catch (Exception failed) when (failed is ToolException or IOException)
        {
            Message = "The sound can not be drawn: " + failed.Message;
        }
        return true;
    }

    private async Task<IReadOnlyList<(float Low, float High)>?> DrawAsync(Source source)
    {
        if (source.Facts.Channels == 0)
        {
            return null;
        }
        var place = source.Place ?? default;
        MediaTime from = place.ToSource(Shown.In).FromZero,
            to = place.ToSource(Shown.Out).FromZero;
        if (Shown.Length <= Close)
        {
            var samples = await SoundExtract.ReadAsync(files.Open(source), source.Facts, from, to - from, HttpContext.RequestAborted);
            return Waveform.Columns(new HeldSound(samples), 0, Math.Max(1, samples.Length), Math.Min(Columns, Math.Max(2, samples.Length)));
        }
        using var sound = await sounds.OpenAsync(source, HttpContext.RequestAborted);
        return Waveform.Columns(sound, At8k(from), At8k(to), Columns);
    }

    // To the tenth where tenths can be seen, to the millisecond and finer where those can.
    private string Label(SittingTime at) =>
        Zoom is 0 or >= 2_000
            ? at.ToString()
            : ((decimal)at.FromZero.Units / MediaTime.UnitsPerSecond).ToString(
                Zoom >= 200 ? "0.00 s" : "0.0000 s",
                CultureInfo.InvariantCulture
            );

    private static decimal At8k(MediaTime time) => (decimal)time.Units * SoundMatch.SampleRate / MediaTime.UnitsPerSecond;
}
