using EmberLane.Store;
using EmberLane.Web.Gathering;
using EmberLane.Web.Rooms;
using EmberLane.Web.Work;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Gather;

/// <summary>Gather: the sittings and their sources, measured and placed on one clock.</summary>
public sealed class IndexModel(Footage footage, Desk desk, Jobs jobs, MediaCache cache, Recognisers recognisers, WorkNews news) : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

    public override string Room => "Gather";

    public IReadOnlyList<Sitting> Sittings { get; private set; } = [];

    public ILookup<long?, Source> Sources { get; private set; } = null!;

    public Sitting? Open { get; private set; }

    public Job? Transcribing { get; private set; }

    public Job? Syncing { get; private set; }

    public string RecogniserName => recognisers.Chosen.Name;

    public bool IsPlayable(Source source) => cache.IsPlayable(source);

    public bool HasThumbnail(Source source) => System.IO.File.Exists(cache.Thumbnail(source));

    public void OnGet(long? sitting) => Load(sitting);

    /// <summary>The sheet of one sitting, as work on it moves on.</summary>
    public IActionResult OnGetSheet(long sitting)
    {
        Load(sitting);
        return Partial("_Sheet", this);
    }

    public IActionResult OnPostTranscribe(long sitting)
    {
        if (SittingHere(sitting) is not { SoundSourceId: not null } found)
        {
            return NotFound();
        }
        jobs.Add(Production.Id, WorkKinds.Transcribe, found.Id, $"Transcript of {found.Title}", recognisers.Chosen.Key);
        return Shown(sitting);
    }

    public IActionResult OnPostSync(long sitting)
    {
        if (SittingHere(sitting) is not { } found)
        {
            return NotFound();
        }
        jobs.Add(Production.Id, WorkKinds.Sync, found.Id, $"Sync of {found.Title}");
        return Shown(sitting);
    }

    private IActionResult Shown(long sitting)
    {
        news.Tell();
        if (!IsFragment)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/gather?sitting={sitting}"));
        }
        Load(sitting);
        return Partial("_Sheet", this);
    }

    private void Load(long? sitting)
    {
        Sittings = footage.Sittings(Production.Id);
        Sources = footage.Sources(Production.Id).ToLookup(s => s.SittingId);
        Open = Sittings.FirstOrDefault(s => s.Id == sitting) ?? (Sittings.Count > 0 ? Sittings[0] : null);
        Transcribing = Open is null ? null : jobs.Newest(WorkKinds.Transcribe, Open.Id);
        Syncing = Open is null ? null : jobs.Newest(WorkKinds.Sync, Open.Id);
    }
}
