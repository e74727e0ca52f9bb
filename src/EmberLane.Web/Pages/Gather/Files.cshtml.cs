using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Media;
using EmberLane.Core.People;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Gather;

/// <summary>All files of a production: found, sorted, labelled and put into sittings, many at once.</summary>
[Needs(Rights.Log)]
public sealed class FilesModel(
    Footage footage,
    Grouping grouping,
    Desk desk,
    SittingChanges changes,
    MediaCache cache,
    Jobs jobs,
    FootageFolders folders,
    Intake intake,
    Recognisers recognisers,
    News news
) : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

    public override string Room => "Gather";

    /// <inheritdoc/>
    public override string CommandPlace => CommandPlaces.Files;

    public string Asked { get; private set; } = "";

    public string Sort { get; private set; } = "name";

    public bool Backwards { get; private set; }

    /// <summary>Which files: all, <c>loose</c>, <c>missing</c>, or a sitting's number.</summary>
    public string Of { get; private set; } = "";

    public IReadOnlyList<Sitting> Sittings { get; private set; } = [];

    public IReadOnlyList<Source> All { get; private set; } = [];

    public IReadOnlyList<Source> Shown { get; private set; } = [];

    public IReadOnlyList<long> Ticked { get; private set; } = [];

    /// <summary>The folders that files may be found in.</summary>
    public IReadOnlyList<string> Roots => folders.Roots;

    /// <summary>The search for missing files that runs, or ran last.</summary>
    public Job? Finding { get; private set; }

    public int Gone => All.Count(s => s.State != FileState.Here);

    /// <summary>For the form of labels: what all ticked files have in common, null where they differ.</summary>
    public IReadOnlyDictionary<string, string?> Common { get; private set; } = new Dictionary<string, string?>();

    public bool HasThumbnail(Source source) => cache.IsWhole(cache.Thumbnail(source));

    /// <summary>Whether another file of the production has the same name, so that its folder has to be told.</summary>
    public bool IsNamedAlike(Source source) => names[source.Name].Count() > 1;

    private ILookup<string, Source> names = Array.Empty<Source>().ToLookup(s => s.Name);

    private Dictionary<long, string> titles = [];

    public string TitleOf(Source source) => source.SittingId is { } id ? titles.GetValueOrDefault(id, "") : "";

    /// <summary>So many rows are shown at most; whoever looks for a file asks for less.</summary>
    private const int MostShown = 1_000;

    /// <summary>How many files fit what was asked for, also those that are not shown.</summary>
    public int Fitting { get; private set; }

    /// <summary>The address of this list with another sort or choice.</summary>
    public string Address(string? sort = null, bool backwards = false) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"/productions/{Production.Id}/gather/files?q={Uri.EscapeDataString(Asked)}&of={Uri.EscapeDataString(Of)}"
                + $"&sort={sort ?? Sort}{(sort is null ? Backwards : backwards) switch { true => "&back=true", false => "" }}"
        );

    /// <summary>Where the forms of this list are sent.</summary>
    public string Post(string handler) => Address() + "&handler=" + handler;

    public IActionResult OnGet(string? q, string? of, string? sort, bool back, long[] files)
    {
        Load(q, of, sort, back, files);
        return IsFragment ? Partial("_Files", this) : Page();
    }

    /// <summary>What is said of missing files, as the search for them gets on.</summary>
    public IActionResult OnGetGone()
    {
        Load(null, null, null, false, []);
        return Partial("_Gone", this);
    }

    /// <summary>Looks for missing files below a folder, in the background.</summary>
    public IActionResult OnPostFind(string? folder)
    {
        jobs.Add(Production.Id, WorkKinds.Find, Production.Id, "Missing files looked for", folder ?? "");
        news.Tell();
        return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/gather/files?of=missing"));
    }

    /// <summary>Brings in what lies now under the names of replaced files, as loose footage.</summary>
    public async Task<IActionResult> OnPostTakeNewAsync()
    {
        Load(null, "missing", null, false, []);
        try
        {
            var result = await intake.BringInAsync(
                Production.Id,
                null,
                [.. All.Where(s => s.State == FileState.Replaced).Select(s => s.Path)],
                HttpContext.RequestAborted
            );
            Message =
                $"{Many.Of(result.Taken, "file")} brought in as loose footage."
                + string.Concat(result.LeftOut.Select(l => $" {l.Name}: {l.Reason}"));
        }
        catch (Exception failed) when (failed is EmberLane.Engines.ToolException or ConflictException)
        {
            Message = failed.Message;
        }
        Load(null, "missing", null, false, []);
        return Page();
    }

    /// <summary>Looks over all files now.</summary>
    public IActionResult OnPostLook(string? q, string? of, string? sort, bool back, long[] files) =>
        Change(
            q,
            of,
            sort,
            back,
            files,
            () =>
            {
                FilesWatch.Queue(jobs, Production.Id);
                return "The files are being looked over.";
            }
        );

    /// <summary>Has what is said at the start of the ticked files written down.</summary>
    public IActionResult OnPostSaid(string? q, string? of, string? sort, bool back, long[] files) =>
        Change(
            q,
            of,
            sort,
            back,
            files,
            () =>
            {
                var heard = footage.Sources(Production.Id).Where(s => files.Contains(s.Id) && s.Facts.Channels > 0).ToList();
                foreach (var source in heard)
                {
                    jobs.Add(
                        Production.Id,
                        WorkKinds.Said,
                        source.Id,
                        $"What is said at the start of {source.Name}",
                        recognisers.Chosen.Key
                    );
                }
                return heard.Count == 0
                    ? "None of the ticked files has sound."
                    : $"The first ten seconds of {Many.Of(heard.Count, "file")} are being listened to.";
            }
        );

    /// <summary>The form that writes on the ticked files, filled with what they have in common.</summary>
    public IActionResult OnGetLabels(string? q, string? of, string? sort, bool back, long[] files)
    {
        Load(q, of, sort, back, files);
        var chosen = All.Where(s => files.Contains(s.Id)).ToList();
        Common = Labels.Names.ToDictionary(n => n, n => chosen.Select(s => s.Labels.Of(n)).Distinct().ToList() is [var one] ? one : null);
        return Partial("_Labels", this);
    }

    public IActionResult OnPostLabel(string? q, string? of, string? sort, bool back, long[] files) =>
        Change(
            q,
            of,
            sort,
            back,
            files,
            () =>
            {
                var written = Labels.Names.Where(IsWritten).ToList();
                if (written.Count == 0)
                {
                    return "Nothing was written, so nothing changed.";
                }
                grouping.Label(
                    Production.Id,
                    files,
                    labels => written.Aggregate(labels, (l, n) => l.With(n, Request.Form[n].ToString())),
                    Who
                );
                return $"Written on {Many.Of(files.Length, "file")}.";
            }
        );

    public IActionResult OnPostMove(string? q, string? of, string? sort, bool back, long[] files, string? into, string? title) =>
        Change(
            q,
            of,
            sort,
            back,
            files,
            () =>
            {
                var target = long.TryParse(into, NumberStyles.None, CultureInfo.InvariantCulture, out var id) ? id : (long?)null;
                if (into == "new" && string.IsNullOrWhiteSpace(title))
                {
                    throw new EditRefusedException("Give the new sitting a title.");
                }
                if (target is null && into is not ("new" or "none"))
                {
                    throw new EditRefusedException("Choose where to put them.");
                }
                var there = grouping.Move(Production.Id, files, target, into == "new" ? title : null, Who);
                if (there is { } sitting)
                {
                    changes.Made(sitting);
                }
                return there is null
                    ? $"{Many.Of(files.Length, "file")} taken out of the sitting."
                    : $"{Many.Of(files.Length, "file")} put into {footage.Sitting(there.Value)!.Title}; sync compares the sound now.";
            }
        );

    public IActionResult OnPostUndo(string? q, string? of, string? sort, bool back, long[] files, bool redo) =>
        Change(q, of, sort, back, files, () => StepWords.Of(grouping.Step(Production.Id, redo, Who), redo));

    private IActionResult Change(string? q, string? of, string? sort, bool back, long[] files, Func<string> change)
    {
        string? said = null;
        Message = Try(NewsOf.Gather, () => said = change()) ?? said;
        Load(q, of, sort, back, files);
        Response.Headers["HX-Trigger"] = "changed";
        return IsFragment ? Partial("_Files", this) : Page();
    }

    // Where the files had one text in common it counts when it differs now; where they differ, when something was typed or shall be
    // emptied.
    private bool IsWritten(string name) =>
        Request.Form.TryGetValue("was-" + name, out var was)
            ? Request.Form[name].ToString() != was.ToString()
            : Request.Form[name].ToString().Length > 0 || Request.Form.ContainsKey("empty-" + name);

    private void Load(string? q, string? of, string? sort, bool back, long[] files)
    {
        (Asked, Of, Backwards) = (TypedText.OneLine(q ?? ""), of ?? "", back);
        Sort = FileList.Columns.Any(c => c.Key == sort) ? sort! : "name";
        Sittings = footage.Sittings(Production.Id);
        titles = Sittings.ToDictionary(s => s.Id, s => s.Title);
        All = footage.Sources(Production.Id);
        names = All.ToLookup(s => s.Name, StringComparer.OrdinalIgnoreCase);
        Finding = jobs.Newest(WorkKinds.Find, Production.Id);
        var sorted = FileList.Of(All, TitleOf, Asked, Of, Sort, Backwards);
        (Shown, Fitting) = ([.. sorted.Take(MostShown)], sorted.Count);
        Ticked = [.. Shown.Select(s => s.Id).Where(files.Contains)];
    }
}
