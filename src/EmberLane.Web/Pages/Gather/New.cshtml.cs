using EmberLane.Core;
using EmberLane.Engines;
using EmberLane.Store;
using EmberLane.Web.Gathering;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Gather;

/// <summary>Brings files in, by upload or from a footage folder, as a sitting or as loose footage.</summary>
[DisableRequestSizeLimit]
[DisableFormBinding]
public sealed class NewModel(Footage footage, Desk desk, FootageFolders folders, Intake intake, Upload upload) : LiveRoom(footage, desk)
{
    public override string Room => "Gather";

    public FootageFolders Folders => folders;

    public string? Folder { get; private set; }

    public (IReadOnlyList<string> Folders, IReadOnlyList<FileInfo> Files) Listing { get; private set; } = ([], []);

    public IntakeResult? Result { get; private set; }

    public void OnGet(string? folder) => Show(folder);

    public async Task<IActionResult> OnPostPickAsync()
    {
        var form = await Request.ReadFormAsync(HttpContext.RequestAborted);
        var paths = form["paths"].OfType<string>().ToList();
        if (paths.Count == 0)
        {
            Message = "Tick the files that belong together first.";
        }
        else
        {
            await TakeAsync(form["title"].ToString(), paths);
        }
        Show(paths.Count > 0 ? Path.GetDirectoryName(paths[0]) : null);
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
        Folder = folder is null ? folders.Roots[0] : folders.Allowed(folder);
        if (Folder is null || !Directory.Exists(Folder))
        {
            Message = "That folder is not one that footage may be read from, or it is gone. Choose one of those below.";
            Folder = folders.Roots[0];
        }
        Listing = folders.List(Folder);
    }
}
