using EmberLane.Core;
using EmberLane.Core.Sync;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using EmberLane.Web.Work;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Gather;

/// <summary>Makes sittings of loose footage: proposals by timecode, and any files that are ticked.</summary>
public sealed class SittingsModel(Footage footage, Desk desk, Jobs jobs, WorkNews news) : LiveRoom(footage, desk)
{
    private const int LongestTitle = 120;

    private readonly Footage footage = footage;

    public override string Room => "Gather";

    public IReadOnlyList<Proposal> Proposed { get; private set; } = [];

    /// <summary>Loose files that are in no proposal.</summary>
    public IReadOnlyList<LooseFile> Others { get; private set; } = [];

    public void OnGet() => Load();

    public IActionResult OnPost(long[] files, string? title)
    {
        var clean = TypedText.OneLine(title ?? "");
        if (files.Length == 0 || clean.Length is 0 or > LongestTitle)
        {
            Message = files.Length == 0 ? "Tick the files that belong together first." : "Give the sitting a title of at most 120 characters.";
        }
        else
        {
            try
            {
                var sitting = footage.MakeSitting(Production.Id, clean, files);
                if (files.Length > 1)
                {
                    jobs.Add(Production.Id, WorkKinds.Sync, sitting, $"Sync of {clean}");
                    news.Tell();
                }
                return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/gather?sitting={sitting}"));
            }
            catch (ConflictException conflict)
            {
                Message = conflict.Message;
            }
        }
        Load();
        return Page();
    }

    private void Load()
    {
        var loose = footage.Sources(Production.Id).Where(s => s.SittingId is null).Select(s => new LooseFile(s.Id, s.Name, s.Facts)).ToList();
        Proposed = Proposals.ByTimecode(loose);
        var proposed = Proposed.SelectMany(p => p.Files).Select(f => f.Id).ToHashSet();
        Others = [.. loose.Where(f => !proposed.Contains(f.Id)).OrderBy(f => f.Name, StringComparer.OrdinalIgnoreCase)];
    }
}
