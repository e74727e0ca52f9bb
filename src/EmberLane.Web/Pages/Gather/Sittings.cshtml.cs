using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.People;
using EmberLane.Core.Sync;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Gather;

/// <summary>Makes sittings of loose footage: proposals by timecode, recording time and sound, and any files that are ticked.</summary>
[Needs(Rights.Log)]
public sealed class SittingsModel(Footage footage, Grouping grouping, Likeness likeness, Jobs jobs, Desk desk, SittingChanges changes)
    : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

    public override string Room => "Gather";

    public IReadOnlyList<Proposal> Proposed { get; private set; } = [];

    /// <summary>Loose files that are in no proposal.</summary>
    public IReadOnlyList<LooseFile> Others { get; private set; } = [];

    /// <summary>When a file runs, where that is known, what it is and how long.</summary>
    public string About(LooseFile file) =>
        (file.Runs is { } runs ? SittingChart.Clock(new MediaTime(runs.From.Units % (86_400 * MediaTime.UnitsPerSecond))) + " · " : "")
        + (file.Facts.Picture is { } p ? $"picture {p.Rate}" : "sound, " + Many.Of(file.Facts.Channels, "channel"))
        + $" · {file.Facts.Duration}";

    /// <summary>Where a file lies, for those that share their name with another one; else empty.</summary>
    public string FolderOf(LooseFile file) => folders.GetValueOrDefault(file.Id, "");

    private Dictionary<long, string> folders = [];

    /// <summary>The comparison by sound that runs, or ran last.</summary>
    public Job? Comparing { get; private set; }

    public IActionResult OnGet()
    {
        Load();
        return IsFragment ? Partial("_Proposals", this) : Page();
    }

    /// <summary>How far the comparison by sound is.</summary>
    public IActionResult OnGetCompare()
    {
        Load();
        return Partial("_Compare", this);
    }

    public IActionResult OnPost(long[] files, string? title)
    {
        long sitting = 0;
        Message = Try(
            NewsOf.Gather,
            () => changes.Made(sitting = grouping.Move(Production.Id, files, null, title ?? "", Who, onlyLoose: true)!.Value)
        );
        if (Message is null)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/gather?sitting={sitting}"));
        }
        Load();
        return Page();
    }

    private void Load()
    {
        var sources = footage.Sources(Production.Id).Where(s => s.SittingId is null).ToList();
        folders = sources
            .GroupBy(s => s.Name, StringComparer.OrdinalIgnoreCase)
            .Where(g => g.Count() > 1)
            .SelectMany(g => g)
            .ToDictionary(s => s.Id, s => "in " + Path.GetFileName(Path.GetDirectoryName(s.Path)) + " · ");
        var loose = sources.Select(s => new LooseFile(s.Id, s.Name, s.Facts)).ToList();
        Proposed = Proposals.Of(loose, likeness.Of(Production.Id));
        Comparing = jobs.Newest(WorkKinds.Alike, Production.Id);
        var proposed = Proposed.SelectMany(p => p.Files).Select(f => f.Id).ToHashSet();
        Others = [.. loose.Where(f => !proposed.Contains(f.Id)).OrderBy(f => f.Name, StringComparer.OrdinalIgnoreCase)];
    }
}
