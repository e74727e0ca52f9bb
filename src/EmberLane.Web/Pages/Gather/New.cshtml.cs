using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.People;
using EmberLane.Core.Speech;
using EmberLane.Engines;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Pages.Read;
using EmberLane.Web.Rooms;
using EmberLane.Web.Uploads;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Gather;

/// <summary>Brings files in, by upload or from a footage folder, as a sitting or as loose footage.</summary>
[DisableRequestSizeLimit]
[DisableFormBinding]
[Needs(Rights.Log)]
public sealed class NewModel(
    Footage footage,
    Desk desk,
    FootageFolders folders,
    Intake intake,
    Upload upload,
    Jobs jobs,
    News news,
    Arrival arrival,
    Recognisers recognisers
) : LiveRoom(footage, desk)
{
    /// <summary>More uploaded files than this, without a sitting's title, are measured in the background.</summary>
    private const int MeasuredAtOnce = 8;

    public override string Room => "Gather";

    public FootageFolders Folders => folders;

    public string? Folder { get; private set; }

    public (IReadOnlyList<string> Folders, IReadOnlyList<FileInfo> Files) Listing { get; private set; } = ([], []);

    public IntakeResult? Result { get; private set; }

    /// <summary>Whether loose footage waits to be made sittings of.</summary>
    public bool HasLoose => footage.Sources(Production.Id).Any(s => s.SittingId is null);

    private readonly Footage footage = footage;

    public OnArrival OnArrival => typedArrival ?? arrival.Of(Production.Id);

    public IReadOnlyList<RecogniserChoice> Recognisers => recognisers.All;

    /// <summary>The languages that a recogniser may be asked for.</summary>
    public IReadOnlyList<SpokenLanguage> Languages(string? recogniser) => (recognisers.Find(recogniser) ?? recognisers.Chosen).Languages;

    /// <summary>The languages of the recogniser that is chosen in the form, when it changes.</summary>
    [Needs(Rights.Log)]
    public IActionResult OnGetLanguages(string? recogniser, string? language) =>
        Partial("_Languages", (Languages(recogniser), SpokenLanguage.Of(language) ?? arrival.Of(Production.Id).Language));

    // What was chosen and refused, so that it is not lost.
    private OnArrival? typedArrival;

    // The files that are ticked, when the form comes back.
    public IReadOnlyList<string> Ticked { get; private set; } = [];

    public string TypedTitle { get; private set; } = "";

    [Needs(Rights.Log)]
    public void OnGet(string? folder) => Show(folder);

    // Chooses for what arrives as the form says; a form without the choice leaves it. False when it is refused, which the message tells.
    private bool Choose(Func<string, string> field)
    {
        if (field("arrival").Length == 0)
        {
            return true;
        }
        var choice = new OnArrival(
            field("transcribe") == "true",
            field("recogniser"),
            SpokenLanguage.Of(field("language")) ?? TranscribeOrder.English
        );
        if (arrival.Choose(Production.Id, choice, Who) is not { } reason)
        {
            return true;
        }
        (Message, typedArrival) = (reason, choice);
        return false;
    }

    /// <summary>Folders that were brought in whole, newest first, with what was left out.</summary>
    public IReadOnlyList<(Job Job, IReadOnlyList<(string Path, string Reason)> LeftOut)> Days =>
        [.. jobs.OfKind(Production.Id, WorkKinds.Folder).Take(5).Select(j => (j, jobs.LeftOut(j.Id)))];

    [Needs(Rights.Log)]
    public IActionResult OnGetDays() => Partial("_Days", this);

    /// <summary>Brings the folder with its subfolders in, in the background.</summary>
    public async Task<IActionResult> OnPostFolderAsync()
    {
        var form = await Request.ReadFormAsync(HttpContext.RequestAborted);
        if (folders.Allowed(form["folder"].ToString()) is { } folder && Directory.Exists(folder) && Choose(name => form[name].ToString()))
        {
            jobs.Add(Production.Id, WorkKinds.Folder, Subject(folder), $"Files of {Path.GetFileName(folder)}", folder);
            news.Tell();
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/gather/new?folder={Uri.EscapeDataString(folder)}"));
        }
        Show(form["folder"].ToString());
        return Page();
    }

    // A number for a folder: the same folder is then never queued twice at once.
    private long Subject(string folder) =>
        BitConverter.ToInt64(
            System.Security.Cryptography.SHA256.HashData(
                System.Text.Encoding.UTF8.GetBytes(FormattableString.Invariant($"{Production.Id}/{folder}"))
            )
        ) & long.MaxValue;

    public async Task<IActionResult> OnPostPickAsync()
    {
        var form = await Request.ReadFormAsync(HttpContext.RequestAborted);
        var paths = form["paths"].OfType<string>().ToList();
        (Ticked, TypedTitle) = (paths, form["title"].ToString());
        if (paths.Count == 0)
        {
            Message = "Tick the files that belong together first.";
        }
        else if (Choose(name => form[name].ToString()))
        {
            await TakeAsync(TypedTitle, paths);
            (Ticked, TypedTitle) = Result is { Taken: > 0 } ? ([], "") : (Ticked, TypedTitle);
        }
        Show(paths.Count > 0 ? Path.GetDirectoryName(paths[0]) : form["folder"].ToString());
        return Page();
    }

    public async Task<IActionResult> OnPostUploadAsync()
    {
        try
        {
            var (fields, paths) = await upload.ReceiveAsync(Request, HttpContext.RequestAborted);
            if (paths.Count == 0)
            {
                Message = "No file came with the upload. Choose files first.";
            }
            else if (!Choose(name => fields.GetValueOrDefault(name, "")))
            {
                upload.Forget(paths);
            }
            else if (paths.Count > MeasuredAtOnce && TypedText.OneLine(fields.GetValueOrDefault("title", "")).Length == 0)
            {
                // A day is measured in the background, so that the page answers when the last byte is here.
                var folder = Path.GetDirectoryName(paths[0])!;
                jobs.Add(
                    Production.Id,
                    WorkKinds.Folder,
                    Subject(folder),
                    FormattableString.Invariant($"{paths.Count} uploaded files"),
                    folder
                );
                news.Tell();
                Message = FormattableString.Invariant(
                    $"{paths.Count} files are here and are being measured; what comes of it is listed under “A whole day”."
                );
            }
            else
            {
                var before = Result;
                await TakeAsync(fields.GetValueOrDefault("title", ""), paths);
                if (Result == before || Result!.LeftOut.Count > 0)
                {
                    // A copy that nothing was made of is of no use to anybody.
                    upload.Forget(Result is null ? paths : paths.Where(p => Result.LeftOut.Any(l => l.Name == Path.GetFileName(p))));
                }
            }
        }
        catch (UploadException refused)
        {
            if (IsFragment)
            {
                return Refused(refused.Message, refused.Status);
            }
            Response.StatusCode = refused.Status;
            Message = refused.Message;
        }
        if (IsFragment)
        {
            return Partial("_Outcome", this);
        }
        Show(null);
        return Page();
    }

    private async Task TakeAsync(string title, IReadOnlyList<string> paths)
    {
        var clean = TypedText.OneLine(title);
        if (clean.Length > 120)
        {
            Message = "A title takes at most 120 characters.";
            return;
        }
        try
        {
            Result = await intake.BringInAsync(Production.Id, clean.Length == 0 ? null : clean, paths, HttpContext.RequestAborted);
        }
        catch (Exception e) when (e is ToolException or ConflictException)
        {
            Message = e.Message;
        }
    }

    private void Show(string? folder)
    {
        // A folder that was named with --footage first; the one for uploads holds what is here already.
        var first = folders.Roots.Count > 1 ? folders.Roots[1] : folders.Roots[0];
        Folder = string.IsNullOrEmpty(folder) ? first : folders.Allowed(folder);
        if (Folder is null || !Directory.Exists(Folder))
        {
            Message = "That folder is not one that footage may be read from, or it is gone. Choose one of those below.";
            Folder = first;
        }
        Listing = folders.List(Folder);
    }
}
