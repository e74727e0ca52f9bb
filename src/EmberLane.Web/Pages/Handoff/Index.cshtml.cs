using System.IO.Compression;
using EmberLane.Application.Rooms;
using EmberLane.Core;
using EmberLane.Core.Captions;
using EmberLane.Core.Handoff;
using EmberLane.Core.Stories;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Handoff;

/// <summary>Hand-off: what to settle first, then the lists.</summary>
public sealed class IndexModel(Footage footage, Desk desk, Store.Stories stories, HandoffDesk handoff) : LiveRoom(footage, desk)
{
    public override string Room => "Handoff";

    public StoredStory Stored { get; private set; } = null!;

    public IReadOnlyList<Check> Checks { get; private set; } = [];

    /// <summary>What was found in what would be written.</summary>
    public IReadOnlyList<Check> Written { get; private set; } = [];

    /// <summary>The decision list as it would be downloaded: one text a file.</summary>
    public IReadOnlyList<string> Lists { get; private set; } = [];

    public int EventCount { get; private set; }

    /// <summary>What was chosen and refused, so that nothing typed is lost.</summary>
    public string? TypedStart { get; private set; }

    /// <summary>The counting that the form shows: the one that was chosen, also when the start time with it was refused.</summary>
    public TimecodeCount? Chosen { get; private set; }

    public MediaTime Running { get; private set; }

    /// <summary>How captions are made unless somebody says otherwise.</summary>
    public CaptionRules Usual { get; } = new();

    public void OnGet() => Load();

    public IActionResult OnPostCount(string? count, string? start)
    {
        Load();
        var chosen = TimecodeCount.Supported.FirstOrDefault(c => c.ToString() == count, Stored.Start.Count);
        if (!chosen.TryParse(start, out var timecode, out var error))
        {
            Message = error;
            (TypedStart, Chosen) = (start, chosen);
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            return Page();
        }
        stories.Apply(Desk.StoryToChange(Production, Who).Id, CountStory.Of(timecode.Value), Who);
        return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/handoff"));
    }

    /// <summary>The decision list; a zip when it takes more than one file.</summary>
    public IActionResult OnGetList()
    {
        Load();
        if (Lists.Count == 0)
        {
            return Refused(Message ?? "The story is empty. Put bites into it first.");
        }
        return EdlFiles.Of(Lists, Stem);
    }

    /// <summary>
    /// The package of the story with these parts, all where none is named, as an archive; a part <paramref name="alone"/> as its file.
    /// </summary>
    public async Task<IActionResult> OnGetPackageAsync(string[] part, int? line, int? lines, int? speed, string? times, bool alone)
    {
        if (!ModelState.IsValid)
        {
            return Refused("The rules of captions are whole numbers. Load the page again.");
        }
        try
        {
            var parts = PackagePart.Named(part);
            var rules = new CaptionRules
            {
                Line = line ?? Usual.Line,
                Lines = lines ?? Usual.Lines,
                Speed = speed ?? Usual.Speed,
            }.Check();
            var story = await HandoffDesk.WithSumsAsync(
                handoff.Of(Production, Desk.StoryOf(Production, Who), times == "list" ? LabelClock.List : LabelClock.Camera),
                HttpContext.RequestAborted
            );
            var files = HandoffDesk.Files(story, parts, rules);
            return alone && files.Count == 1
                ? File(files[0].Bytes, "application/octet-stream", files[0].Name)
                : File(
                    Packed(alone ? files : [.. files, HandoffDesk.ManifestOf(story, files.Select(f => f.Written))]),
                    "application/zip",
                    story.Stem + ".zip"
                );
        }
        catch (Exception refused) when (refused is EditRefusedException or FormatException)
        {
            return Refused(refused.Message);
        }
    }

    private static byte[] Packed(IReadOnlyList<PackageFile> files)
    {
        using var memory = new MemoryStream();
        using (var zip = new ZipArchive(memory, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var file in files)
            {
                using var entry = zip.CreateEntry(file.Name).Open();
                entry.Write(file.Bytes);
            }
        }
        return memory.ToArray();
    }

    private string Stem => HandedStory.StemOf(Stored.Title);

    private void Load()
    {
        Stored = Desk.StoryOf(Production, Who);
        if (Stored.Story.Cards.Count == 0)
        {
            Checks = Desk.Checks(Production, Stored);
            Running = Desk.CutOf(Stored).RunningTime(Stored.Start.Count.Rate);
            return;
        }
        try
        {
            var story = handoff.Of(Production, Stored);
            (Checks, Running) = (story.Checks, story.Start.Count.Rate.TimeOf(story.Frames));
            EventCount = story.Events.Events.Count;
            Lists = EdlWriter.Write(story.Events);
            Written = HandoffChecks.Of(story, Usual);
        }
        catch (EditRefusedException refused)
        {
            Message = refused.Message;
            (Checks, Running) = (Desk.Checks(Production, Stored), Desk.CutOf(Stored).RunningTime(Stored.Start.Count.Rate));
        }
    }
}
