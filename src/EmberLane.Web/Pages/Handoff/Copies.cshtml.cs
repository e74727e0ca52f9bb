using System.Globalization;
using EmberLane.Application.Rooms;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Copies;
using EmberLane.Core.People;
using EmberLane.Core.Stories;
using EmberLane.Engines;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Handoff;

/// <summary>Copies of the story to hear and see: asked for, watched while they are made, played, downloaded, taken away.</summary>
[Needs(Rights.HandOff)]
public sealed class CopiesModel(
    Footage footage,
    Desk desk,
    Copies copies,
    Jobs jobs,
    CopyDesk copyDesk,
    OffTheRecord held,
    WorkLoop loop,
    News news,
    Options options,
    TimeProvider time
) : LiveRoom(footage, desk)
{
    /// <summary>So much (10 s) is heard to try what quieting a room does.</summary>
    private static readonly MediaTime Trial = MediaTime.FromMilliseconds(10_000);

    public override string Room => "Handoff";

    public StoredStory Stored { get; private set; } = null!;

    /// <summary>What was typed, or what is usual.</summary>
    public CopyForm Asked { get; private set; } = new();

    /// <summary>The copies of the production, newest first, each with its work.</summary>
    public IReadOnlyList<ShownCopy> Made
    {
        get
        {
            var all = copies.Of(Production.Id);
            var withdrawn = held.Withdrawn(Production.Id, [.. all.Where(copyDesk.IsThere)]);
            return
            [
                .. all.Select(c => new ShownCopy(
                    c,
                    copyDesk.IsThere(c) && !withdrawn.Contains(c.Id),
                    withdrawn.Contains(c.Id),
                    jobs.Newest(WorkKinds.Copy, c.Id)
                )),
            ];
        }
    }

    /// <summary>The sections, and the cards with what is said in them: what a copy can be of.</summary>
    public IReadOnlyList<(string Value, string Says)> Parts { get; private set; } = [];

    /// <summary>When a copy was asked for.</summary>
    public string Moment(StoredCopy copy) => Moments.Of(copy.At, time);

    public void OnGet() => Load();

    public IActionResult OnGetList()
    {
        Load();
        return Partial("_Copies", this);
    }

    /// <summary>Asks for a copy, or one of each section or card.</summary>
    public IActionResult OnPostMake([FromForm] CopyForm asked)
    {
        Load();
        Asked = asked;
        try
        {
            if (!ModelState.IsValid)
            {
                throw new FormatException("Kilobits, the size of captions and characters a line are whole numbers.");
            }
            if (Stored.Story.HasNoCards && Stored.Story.Pieces.All(p => p is SectionHead))
            {
                throw new EditRefusedException("The story is empty. Put bites into it first.");
            }
            var wish = asked.Wish().Check();
            foreach (var (name, only) in Wanted(asked.Of))
            {
                var id = copies.Add(Production.Id, Stored.Id, Stored.Version, name, wish with { Only = only }, Who);
                jobs.Add(Production.Id, WorkKinds.Copy, id, FormattableString.Invariant($"Copy of {name} ({wish.Ending[1..]})"));
            }
        }
        catch (Exception refused) when (refused is FormatException or EditRefusedException)
        {
            Message = refused.Message;
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            return Page();
        }
        news.Tell();
        return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/handoff/copies"));
    }

    /// <summary>Takes a copy away; the work on it ends.</summary>
    public IActionResult OnPostAway(long copy)
    {
        if (Mine(copy) is not { } there)
        {
            return NotFound();
        }
        if (jobs.Newest(WorkKinds.Copy, copy) is { IsOpen: true } job)
        {
            loop.Cancel(job.Id);
        }
        copies.Remove(Production.Id, copy);
        System.IO.File.Delete(copyDesk.FileOf(there));
        news.Tell();
        return IsFragment ? OnGetList() : Redirect(FormattableString.Invariant($"/productions/{Production.Id}/handoff/copies"));
    }

    /// <summary>The file, played in the page or downloaded.</summary>
    [Needs(Rights.HandOff)]
    public IActionResult OnGetFile(long copy, bool save)
    {
        if (Mine(copy) is not { } there || !copyDesk.IsThere(there))
        {
            return NotFound();
        }
        if (held.Withdrawn(Production.Id, [there]).Count > 0)
        {
            return Refused($"{there.Name} was made before words in it were put off the record. Make it again, or have them released.");
        }
        return new PhysicalFileResult(Path.GetFullPath(copyDesk.FileOf(there)), there.Wish.MediaType)
        {
            EnableRangeProcessing = true,
            FileDownloadName = save ? CopyDesk.DownloadName(there) : null,
        };
    }

    /// <summary>The first seconds of the story with the noise of its rooms as it is, or lowered.</summary>
    [Needs(Rights.HandOff)]
    public async Task<IActionResult> OnGetTrialAsync(bool quiet)
    {
        var file = Path.Combine(options.Data, "cache", FormattableString.Invariant($"trial-{Guid.NewGuid():N}.part"));
        try
        {
            await copyDesk.MakeAsync(
                Production,
                Desk.StoryOf(Production, Who),
                new CopyWish
                {
                    Form = Core.Copies.CopyForm.Wave,
                    Loudness = null,
                    AreEvened = false,
                    IsQuieted = quiet,
                },
                file,
                null,
                HttpContext.RequestAborted,
                Trial
            );
            return new FileContentResult(await System.IO.File.ReadAllBytesAsync(file, HttpContext.RequestAborted), "audio/wav")
            {
                EnableRangeProcessing = true,
            };
        }
        catch (Exception failed) when (failed is EditRefusedException or FormatException or ToolException or IOException)
        {
            return Refused(failed.Message);
        }
        finally
        {
            System.IO.File.Delete(file);
        }
    }

    private StoredCopy? Mine(long copy) => copies.Get(copy) is { } there && there.ProductionId == Production.Id ? there : null;

    private List<(string Name, Guid? Only)> Wanted(string of)
    {
        var title = Stored.Title;
        IEnumerable<(string, Guid?)> wanted = of switch
        {
            CopyForm.Whole => [(title, null)],
            CopyForm.EachSection => Sections().Select(s => ($"{title}, {s.Name}", (Guid?)s.Id)),
            CopyForm.EachCard => Cards().Select(c => ($"{title}, card {c.Number}", (Guid?)c.Id)),
            _ => Guid.TryParse(of, out var id)
                ? Sections()
                    .Select(s => ($"{title}, {s.Name}", s.Id))
                    .Concat(Cards().Select(c => ($"{title}, card {c.Number}", c.Id)))
                    .Where(p => p.Id == id)
                    .Select(p => (p.Item1, (Guid?)p.Id))
                : [],
        };
        return wanted.ToList() is { Count: > 0 } some
            ? some
            : throw new FormatException("That part is not in the story, or the story has no sections. Choose again what the copy is of.");
    }

    private IEnumerable<SectionHead> Sections() => Stored.Story.Pieces.OfType<SectionHead>();

    private IEnumerable<(int Number, Guid Id)> Cards() => Stored.Story.Cards.Select((c, i) => (i + 1, c.Id));

    private void Load()
    {
        Stored = Desk.StoryOf(Production, Who);
        var shown = Desk.Cards(Stored);
        Parts =
        [
            .. Sections().Select(s => (s.Id.ToString(), "Section: " + s.Name)),
            .. Cards()
                .Select(c => (c.Id.ToString(), string.Create(CultureInfo.InvariantCulture, $"Card {c.Number}: {Words(shown[c.Id])}"))),
        ];
    }

    private static string Words(ShownCard card) =>
        card.Said.Length > 50 ? card.Said[..(card.Said.LastIndexOf(' ', 50) is > 0 and var at ? at : 50)] + " …" : card.Said;

    /// <summary>A copy as the page shows it.</summary>
    public sealed record ShownCopy(StoredCopy Copy, bool IsThere, bool IsWithdrawn, Job? Job)
    {
        /// <summary>Why it is not there: it waits, is made, failed, was cancelled, or its file is gone.</summary>
        public string State => Job is { State: not "done" } job ? job.State : "gone";

        /// <summary>How large it is, and how loud it turned out.</summary>
        public string Told =>
            string.Create(
                    CultureInfo.InvariantCulture,
                    $"{Copy.Bytes / 1_000_000m:0.0} MB{(Copy.Loudness is { } loud ? $" · measured {loud / 10m:0.0} LUFS" : "")}"
                )
                .Replace('-', '−');
    }

    /// <summary>The form, as it is typed.</summary>
    public sealed class CopyForm
    {
        /// <summary>What a copy is of.</summary>
        public const string Whole = "whole",
            EachSection = "sections",
            EachCard = "cards";

        public string Kind { get; set; } = "mp3";

        public string Of { get; set; } = Whole;

        public string Loudness { get; set; } = "−16";

        public bool Even { get; set; }

        public bool Quiet { get; set; }

        public bool Stereo { get; set; }

        public int Kilobits { get; set; } = 128;

        public string Shape { get; set; } = CopyShape.Wide.Name;

        public bool Sources { get; set; }

        public bool Labels { get; set; }

        public bool Captions { get; set; }

        public int Size { get; set; } = 100;

        public int Line { get; set; } = 37;

        public bool Above { get; set; }

        public bool Box { get; set; }

        public bool Marked { get; set; }

        public string? EndCard { get; set; }

        /// <summary>Whether it is as the page first shows it.</summary>
        public bool IsFresh { get; set; } = true;

        /// <summary>What is wanted. Throws <see cref="FormatException"/> for what can not be had.</summary>
        public CopyWish Wish() =>
            new()
            {
                Form = Kind switch
                {
                    "mp3" => Core.Copies.CopyForm.Mp3,
                    "wav" => Core.Copies.CopyForm.Wave,
                    "mp4" => Core.Copies.CopyForm.Video,
                    _ => throw new FormatException("Choose what to make: a listening copy or a viewing copy."),
                },
                Loudness = string.IsNullOrWhiteSpace(Loudness) ? null : CopyWish.LoudnessOf(Loudness),
                AreEvened = Even,
                IsQuieted = Quiet,
                IsStereo = Stereo,
                Kilobits = Kilobits,
                Shape = Shape,
                IsFromSources = Sources,
                IsLabelled = Labels,
                HasCaptions = Captions,
                CaptionSize = Size,
                CaptionLine = Line,
                AreCaptionsAbove = Above,
                HasBox = Box,
                IsWordMarked = Marked,
                EndCard = (EndCard ?? "").Trim(),
            };
    }
}
