using System.IO.Compression;
using EmberLane.Application.Rooms;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Captions;
using EmberLane.Core.Copies;
using EmberLane.Core.Handoff;
using EmberLane.Core.People;
using EmberLane.Core.Stories;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Handoff;

/// <summary>Hand-off: what to settle first, then the lists.</summary>
[Needs(Rights.HandOff)]
public sealed class IndexModel(Footage footage, Desk desk, Store.Stories stories, HandoffDesk handoff, Captions captions, StoryTable table)
    : LiveRoom(footage, desk)
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

    /// <summary>How captions of the story are made unless somebody says otherwise here.</summary>
    public CaptionRules Usual { get; private set; } = new();

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
    [Needs(Rights.HandOff)]
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
    [Needs(Rights.HandOff)]
    public async Task<IActionResult> OnGetPackageAsync(
        string[] part,
        int? line,
        int? lines,
        int? speed,
        [FromQuery] AskedLists lists,
        bool alone
    )
    {
        if (!ModelState.IsValid)
        {
            return Refused("The rules of captions are whole numbers, and what is ticked is yes or no. Load the page again.");
        }
        try
        {
            var stored = Desk.StoryOf(Production, Who);
            Usual = captions.Of(stored.Id).Rules;
            var parts = PackagePart.Named(part);
            var rules = new CaptionRules
            {
                Line = line ?? Usual.Line,
                Lines = lines ?? Usual.Lines,
                Speed = speed ?? Usual.Speed,
            }.Check();
            var story = await HandoffDesk.WithSumsAsync(
                handoff.Of(Production, stored, lists.WayOf(stored.Start.Count)),
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

    /// <summary>What takes a moment to look at: whether cuts clip words.</summary>
    [Needs(Rights.HandOff)]
    public PartialViewResult OnGetWords() =>
        Partial("_Checks", (IReadOnlyList<Check>)[handoff.ClippedWords(Desk.StoryOf(Production, Who))]);

    /// <summary>Mends at once what can be.</summary>
    public IActionResult OnPostMend(Cure cure)
    {
        if (Try(NewsOf.Story, () => Mend(Desk.StoryToChange(Production, Who), cure)) is { } refused)
        {
            Load();
            Message = refused;
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            return Page();
        }
        return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/handoff"));
    }

    private void Mend(StoredStory story, Cure cure)
    {
        if (cure == Cure.MendSeams)
        {
            table.MendAll(story, Who);
            return;
        }
        var gone = cure is Cure.TakeOutEmpty or Cure.TakeOutAside ? Desk.CardsToTakeOut(Production, story, cure) : [];
        _ =
            gone.Count == 0
                ? throw new EditRefusedException("There is nothing to mend any more. Look at what is listed now.")
                : stories.Apply(story.Id, story.Version, StoryTogether.Of([.. gone.Select(c => new TakeOut(c))]), Who);
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

    /// <summary>How lists are wanted, as the form says it.</summary>
    public sealed class AskedLists
    {
        public string? Times { get; set; }

        public string? From { get; set; }

        public string? Master { get; set; }

        public bool LongReels { get; set; }

        public bool Gaps { get; set; }

        public bool Apart { get; set; }

        public string? Shape { get; set; }

        /// <summary>It for a list that counts so. Throws <see cref="FormatException"/> for a master's start that is no timecode.</summary>
        public ListWay WayOf(TimecodeCount count) =>
            new()
            {
                Clock = Times == "list" ? LabelClock.List : LabelClock.Camera,
                Master = From == "master" ? count.Parse(Master ?? "") : null,
                AreReelsLong = LongReels,
                AreGapsLeft = Gaps,
                AreTracksApart = Apart,
                Shape = Shape is null || Shape == CopyShape.Wide.Name ? null : CopyShape.Named(Shape).Name,
            };
    }

    private string Stem => HandedStory.StemOf(Stored.Title);

    private void Load()
    {
        Stored = Desk.StoryOf(Production, Who);
        Usual = captions.Of(Stored.Id).Rules;
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
