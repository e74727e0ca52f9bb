using EmberLane.Core;
using EmberLane.Core.Sync;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using EmberLane.Web.Work;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Gather;

/// <summary>Makes sittings of loose footage: proposals by timecode, and any files that are ticked.</summary>
public sealed class SittingsModel(Footage footage, Grouping grouping, Desk desk, SittingChanges changes) : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

    public override string Room => "Gather";

    public IReadOnlyList<Proposal> Proposed { get; private set; } = [];

    /// <summary>Loose files that are in no proposal.</summary>
    public IReadOnlyList<LooseFile> Others { get; private set; } = [];

    public void OnGet() => Load();

    public IActionResult OnPost(long[] files, string? title)
    {
        try
        {
            var sitting = grouping.Move(Production.Id, files, null, title ?? "", Who, onlyLoose: true)!.Value;
            changes.Made(sitting);
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/gather?sitting={sitting}"));
        }
        catch (Exception refused) when (refused is ConflictException or EditRefusedException)
        {
            Message = refused.Message;
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
