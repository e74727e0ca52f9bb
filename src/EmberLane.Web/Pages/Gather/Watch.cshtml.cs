using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Gather;

/// <summary>Plays a sitting with all its angles side by side, before and after it is transcribed.</summary>
public sealed class WatchModel(Footage footage, Desk desk, SittingMics sittingMics, MediaCache cache, Jobs jobs) : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

    public override string Room => "Gather";

    /// <inheritdoc/>
    public override string CommandPlace => CommandPlaces.Watch;

    public Sitting Sitting { get; private set; } = null!;

    public PlayedSitting Played { get; private set; } = new([], null);

    public SittingChart Chart { get; private set; } = SittingChart.Of([], _ => null, null);

    /// <summary>The mics that are heard, by name or person.</summary>
    public string Heard { get; private set; } = "";

    /// <summary>Of the first angle, for stepping; not exact.</summary>
    public string FramesASecond { get; private set; } = "25";

    public IActionResult OnGet(long sitting) => Load(sitting) ? Page() : NotFound();

    /// <summary>The playing copies, as they are made.</summary>
    public IActionResult OnGetAngles(long sitting) => Load(sitting) ? Partial("_Angles", Played) : NotFound();

    private bool Load(long sitting)
    {
        if (SittingHere(sitting) is not { } here)
        {
            return false;
        }
        Sitting = here;
        var sources = footage.SourcesOf(sitting);
        var mics = sittingMics.Of(here);
        Played = PlayedSitting.Of(here, sources, mics, cache, jobs.Newest(WorkKinds.Sync, here.Id));
        Chart = SittingChart.Of(sources, s => cache.IsWhole(cache.Peaks(s)) ? cache.Peaks(s) : null, null);
        Heard = string.Join(
            ", ",
            mics.All.Where(m => m.Heard)
                .Select(m =>
                    m.Person.Length > 0 ? m.Person
                    : m.Name.Length > 0 ? m.Name
                    : m.Kind.ToString().ToLowerInvariant()
                )
                .Distinct()
        );
        if (sources.Select(s => s.Facts.Picture?.Rate).FirstOrDefault(r => r is not null) is { } rate)
        {
            FramesASecond = ((decimal)rate.Numerator / rate.Denominator).ToString("0.####", CultureInfo.InvariantCulture);
        }
        return true;
    }
}
