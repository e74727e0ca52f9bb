using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.People;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Gather;

/// <summary>Gather: the sittings and their sources, measured and placed on one clock.</summary>
[Needs(Rights.Log)]
public sealed class IndexModel(
    Footage footage,
    Grouping grouping,
    SittingMics sittingMics,
    SittingChanges changes,
    Desk desk,
    Jobs jobs,
    MediaCache cache,
    SourceFiles files,
    Recognisers recognisers,
    News news
) : LiveRoom(footage, desk)
{
    /// <summary>So many loose files are shown beside the sittings; all of them under Files.</summary>
    public const int LooseShown = 12;

    private readonly Footage footage = footage;

    public override string Room => "Gather";

    /// <inheritdoc/>
    public override string CommandPlace => CommandPlaces.Gather;

    public IReadOnlyList<Sitting> Sittings { get; private set; } = [];

    public ILookup<long?, Source> Sources { get; private set; } = null!;

    public Sitting? Open { get; private set; }

    public Job? Transcribing { get; private set; }

    public Job? Syncing { get; private set; }

    public string RecogniserName => recognisers.Chosen.Name;

    public bool IsPlayable(Source source) => cache.IsPlayable(source);

    /// <summary>Why a source's file can not be opened just now, a sentence; null when it can.</summary>
    public string? WhyNot(Source source)
    {
        try
        {
            files.Open(source);
            return null;
        }
        catch (FileNotFoundException e)
        {
            return e.Message;
        }
    }

    public bool HasThumbnail(Source source) => cache.IsWhole(cache.Thumbnail(source));

    public void OnGet(long? sitting) => Load(sitting);

    /// <summary>The sheet of one sitting, as work on it moves on.</summary>
    public IActionResult OnGetSheet(long sitting)
    {
        Load(sitting);
        return Partial("_Sheet", this);
    }

    /// <summary>The sittings at the side, as work on them moves on.</summary>
    public IActionResult OnGetSittings(long sitting)
    {
        LoadSittings(sitting);
        return Partial("_SittingList", this);
    }

    public IActionResult OnPostTranscribe(long sitting)
    {
        if (SittingHere(sitting) is not { SoundSourceId: not null } found)
        {
            return NotFound();
        }
        var language = recognisers.LanguageOf(sitting);
        if (recognisers.Chosen.Recogniser.WhyNot(language) is { } why)
        {
            Message = why;
            Load(sitting);
            return IsFragment ? Refused(why) : Page();
        }
        jobs.Add(
            Production.Id,
            WorkKinds.Transcribe,
            found.Id,
            $"Transcript of {found.Title}",
            new TranscribeOrder(recognisers.Chosen.Key, language, null).ToString()
        );
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

    /// <summary>Where the sources of the open sitting lie.</summary>
    public SittingChart Chart { get; private set; } = SittingChart.Of([], _ => null, null);

    /// <summary>The mics of the open sitting in a few words.</summary>
    public string MicsInWords { get; private set; } = "";

    /// <summary>How many files are not where they were, or hold something else.</summary>
    public int Gone => Sources.SelectMany(s => s).Count(s => s.State != FileState.Here);

    public IActionResult OnPostRename(long sitting, string? title) =>
        Change(
            sitting,
            () =>
            {
                grouping.Rename(Production.Id, sitting, title ?? "", Who);
                return null;
            }
        );

    /// <summary>Puts all files of the sitting into another one.</summary>
    public IActionResult OnPostMerge(long sitting, long into)
    {
        var shown = sitting;
        return Change(
            sitting,
            () =>
            {
                if (into == sitting)
                {
                    throw new EditRefusedException("Choose another sitting.");
                }
                grouping.Merge(Production.Id, sitting, into, Who);
                changes.Made(into);
                shown = into;
                return null;
            },
            () => shown
        );
    }

    public IActionResult OnPostUndo(long sitting, bool redo) =>
        Change(sitting, () => StepWords.Of(grouping.Step(Production.Id, redo, Who), redo));

    // The side with the sittings changes too: the whole page is shown again.
    private IActionResult Change(long sitting, Func<string?> change, Func<long>? shown = null)
    {
        if (SittingHere(sitting) is null)
        {
            return NotFound();
        }
        string? said = null;
        Message = Try(NewsOf.Gather, () => said = change()) ?? said;
        if (Message is null)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/gather?sitting={shown?.Invoke() ?? sitting}"));
        }
        Load(sitting);
        return Page();
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

    private void LoadSittings(long? sitting)
    {
        Sittings = footage.Sittings(Production.Id);
        Sources = footage.Sources(Production.Id).ToLookup(s => s.SittingId);
        Open = Sittings.FirstOrDefault(s => s.Id == sitting) ?? (Sittings.Count > 0 ? Sittings[0] : null);
    }

    private void Load(long? sitting)
    {
        LoadSittings(sitting);
        Chart = SittingChart.Of(
            Open is null ? [] : [.. Sources[Open.Id]],
            s => cache.IsWhole(cache.Peaks(s)) ? cache.Peaks(s) : null,
            s => FormattableString.Invariant($"/productions/{Production.Id}/gather/check/{s.Id}")
        );
        MicsInWords = Open is null ? "" : Words(sittingMics.Of(Open));
        Transcribing = Open is null ? null : jobs.Newest(WorkKinds.Transcribe, Open.Id);
        Syncing = Open is null ? null : jobs.Newest(WorkKinds.Sync, Open.Id);
    }

    private static string Words(MicsOfSitting mics)
    {
        var heard = mics.All.Where(m => m.Heard).ToList();
        return heard.Count == 0
            ? ""
            : string.Join(
                ", ",
                heard.GroupBy(m => m.Kind).Select(g => FormattableString.Invariant($"{g.Count()} {g.Key.ToString().ToLowerInvariant()}"))
            );
    }
}
