using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Application.Rooms;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Captions;
using EmberLane.Core.Handoff;
using EmberLane.Core.Import;
using EmberLane.Core.People;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using EmberLane.Web.Uploads;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using CaptionEdit = EmberLane.Core.Edits.ChoiceEdit<EmberLane.Core.Captions.CaptionSetup>;

namespace EmberLane.Web.Pages.Handoff;

/// <summary>The captions of the story: read, retyped, split, joined, moved in time, and in other languages.</summary>
[Needs(Rights.Order | Rights.HandOff)]
public sealed class CaptionsModel(
    Footage footage,
    Desk desk,
    HandoffDesk handoff,
    Captions captions,
    SittingMics sittingMics,
    MediaCache cache
) : LiveRoom(footage, desk)
{
    /// <summary>So many stand on a page.</summary>
    public const int Part = 100;

    private readonly Footage footage = footage;

    public override string Room => "Handoff";

    public StoredStory Stored { get; private set; } = null!;

    /// <summary>How captions are made.</summary>
    public CaptionRules Rules { get; private set; } = new();

    /// <summary>What was typed of the rules, where that was refused.</summary>
    public (string Line, string Lines, string Speed)? TypedRules { get; private set; }

    public IReadOnlyList<string> Languages { get; private set; } = [];

    /// <summary>Which is shown; empty for the one that is spoken.</summary>
    public string Language { get; private set; } = "";

    /// <summary>Whether only those that need a look are.</summary>
    public bool IsLook { get; private set; }

    /// <summary>The place of the first that is shown among those that are listed.</summary>
    public int From { get; private set; }

    /// <summary>The number of the first word of the one that is being changed.</summary>
    public int? Open { get; private set; }

    /// <summary>What was typed in it, where that was refused.</summary>
    public string? TypedText { get; private set; }

    /// <summary>The language that was typed for a table.</summary>
    public string? TypedLanguage { get; private set; }

    /// <summary>How many there are, need a look, and are listed.</summary>
    public (int All, int Look, int Listed) Count { get; private set; }

    public IReadOnlyList<ShownCaption> Shown { get; private set; } = [];

    /// <summary>What to say of a table that was taken over.</summary>
    public string? Taken { get; private set; }

    /// <summary>Rows of it whose captions are not there any more.</summary>
    public IReadOnlyList<TranslatedRow> Unfound { get; private set; } = [];

    private IReadOnlyList<LaidCaption> track = [];

    public void OnGet(string? language, int from, bool look, int? open) => Load(language, from, look, open);

    public IActionResult OnGetList(string? language, int from, bool look)
    {
        Load(language, from, look, null);
        return Partial("_Captions", this);
    }

    /// <summary>Saves a caption's text and when it stands.</summary>
    public IActionResult OnPostSave([FromForm] Asked asked, string? text, string? begins, string? ends)
    {
        TypedText = text;
        return Change(
            asked,
            "changed",
            at =>
            {
                var caption = track[at];
                var (from, to) = (Time(begins, caption.Caption.In), Time(ends, caption.Caption.Out));
                var isMoved = from != caption.Caption.In || to != caption.Caption.Out;
                var isTyped = (text ?? "").ReplaceLineEndings("\n").Trim() != caption.Text;
                if (!isMoved && !isTyped)
                {
                    return null;
                }
                var moved = CaptionFixes.Move(caption, from, to, track.ElementAtOrDefault(at - 1), track.ElementAtOrDefault(at + 1));
                var fix = isTyped ? CaptionFixes.Retype(caption, text) with { In = moved.In, Out = moved.Out } : moved;
                return (Language.Length > 0 && fix.Text is null ? throw Untranslated() : [fix], [caption]);
            }
        );
    }

    /// <summary>Parts a caption before one of its words.</summary>
    public IActionResult OnPostSplit([FromForm] Asked asked, int word) =>
        Change(asked, "split", at => (CaptionFixes.Split(Translated(track[at]), word, Language.Length == 0), [track[at]]));

    /// <summary>Makes a caption and the next one one.</summary>
    public IActionResult OnPostJoin([FromForm] Asked asked) =>
        Change(
            asked,
            "joined with the next",
            at =>
                track.ElementAtOrDefault(at + 1) is { } next
                    ? ([CaptionFixes.Join(Translated(track[at]), Translated(next))], [track[at], next])
                    : throw new EditRefusedException("It is the last one: there is none to join it with.")
        );

    /// <summary>Lets a caption be as it is made.</summary>
    public IActionResult OnPostReset([FromForm] Asked asked) => Change(asked, "as it is made", at => ([], [track[at]]));

    /// <summary>Has captions made by other rules.</summary>
    public IActionResult OnPostRules(string? language, string? line, string? lines, string? speed)
    {
        Load(language, 0, false, null);
        try
        {
            var rules = new CaptionRules
            {
                Line = Whole(line, "Characters a line"),
                Lines = Whole(lines, "Lines a caption"),
                Speed = Whole(speed, "Characters a second"),
            };
            var edit = CaptionSetup.By(rules);
            return Answer(_ => edit, FormattableString.Invariant($"{rules.Lines} lines of {rules.Line}, {rules.Speed} a second"), null);
        }
        catch (FormatException bad)
        {
            TypedRules = (line ?? "", lines ?? "", speed ?? "");
            return Bad(bad.Message);
        }

        static int Whole(string? typed, string what) =>
            int.TryParse(typed, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
                ? number
                : throw new FormatException(what + " are a whole number.");
    }

    /// <summary>Takes a translator's table over as the captions of a language.</summary>
    public async Task<IActionResult> OnPostBringAsync(IFormFile? file, string? into)
    {
        Load(null, 0, false, null);
        TypedLanguage = into;
        try
        {
            var language = CaptionSetup.LanguageOf(into);
            var (_, text) = await TextUpload.ReadAsync(
                file ?? throw new FormatException("Choose the table that came back (.csv)."),
                null,
                HttpContext.RequestAborted
            );
            var rows = await TextUpload.InTimeAsync(c => Task.FromResult(TranslationTable.Read(text, c)), HttpContext.RequestAborted);
            var fit = TranslationTable.Fit(rows, track);
            if (fit.Found.Count == 0)
            {
                throw new EditRefusedException(
                    rows.Count == 0 || fit.Empty.Count == rows.Count
                        ? "No row of the table has a translation."
                        : "No row of the table is of a caption of this story. Was it made of another story, or by other rules?"
                );
            }
            var made = TranslationTable.Translated(fit).Select(c => (Guid.NewGuid(), c)).ToList();
            if (
                Try(
                    NewsOf.Captions,
                    () => captions.Change(Stored.Id, s => s.Fix(language, made), $"{Many.Of(made.Count, "caption")} in {language}", Who)
                ) is
                { } refused
            )
            {
                return Bad(refused);
            }
            Load(language, 0, false, null);
            Taken =
                $"{Many.Of(fit.Found.Count, "caption")} taken over."
                + (fit.Empty.Count > 0 ? $" {Many.Of(fit.Empty.Count, "row")} of the table had no translation." : "");
            Unfound = fit.Unfound;
            return Page();
        }
        catch (Exception bad) when (bad is FormatException or EditRefusedException)
        {
            return Bad(bad.Message);
        }
    }

    /// <summary>Takes a language away.</summary>
    public IActionResult OnPostAway(string? language)
    {
        Load(language, 0, false, null);
        return Language.Length == 0
            ? Bad("There is no such language here.")
            : Answer(s => s.Without(Language), $"{Language} taken away", "");
    }

    /// <summary>Takes the newest change of this person back, or brings it again.</summary>
    public IActionResult OnPostUndo(string? language, int from, bool redo)
    {
        Load(language, from, false, null);
        var isMade = false;
        return Try(NewsOf.Captions, () => isMade = captions.Step(Stored.Id, redo, Who)) is { } refused ? Bad(refused)
            : isMade ? Redirect(Address(from: From))
            : Bad(redo ? "There is nothing to bring again." : "There is nothing of yours to take back here.");
    }

    /// <summary>The address of this page as it is shown, but for what is given.</summary>
    public string Address(int from = 0, bool? look = null, int? open = null, string? language = null)
    {
        var query = new List<string>();
        Add((language ?? Language).Length > 0, $"language={Uri.EscapeDataString(language ?? Language)}");
        Add(from > 0, FormattableString.Invariant($"from={from}"));
        Add(look ?? IsLook, "look=true");
        Add(open is not null, FormattableString.Invariant($"open={open}"));
        return FormattableString.Invariant($"/productions/{Production.Id}/handoff/captions")
            + (query.Count > 0 ? "?" + string.Join('&', query) : "")
            + (open is null ? "" : "#open");

        void Add(bool isThere, string text)
        {
            if (isThere)
            {
                query.Add(text);
            }
        }
    }

    /// <summary>Where the sound of a caption's words is, and their seconds in it; null where there is none to hear.</summary>
    public (Played Sound, string Heard)? HeardOf(LaidCaption caption)
    {
        var words = caption.Words.Where(w => w.Sitting == caption.Words[0].Sitting).ToList();
        return
            footage.Sitting(words[0].Sitting) is { } sitting
            && PlayedSitting.Of(sitting, footage.SourcesOf(sitting.Id), sittingMics.Of(sitting), cache, null).Sound
                is { Address: not null } sound
            ? (sound, $"{words[0].Said.In.FromZero.ToSecondsText()} {words[^1].Said.Out.FromZero.ToSecondsText()}")
            : null;
    }

    /// <summary>A moment of the story as it is typed.</summary>
    public static string Clock(MediaTime at) => TranscriptText.Clock(new SittingTime(at), '.');

    private IActionResult Change(
        Asked asked,
        string done,
        Func<int, (IReadOnlyList<FixedCaption> Fixed, IReadOnlyList<LaidCaption> Of)?> change
    )
    {
        Load(asked.Language, asked.From, asked.Look, asked.First);
        if (!ModelState.IsValid)
        {
            return Bad("The request names a caption by something that is no number. Load the page again.");
        }
        var at = track.ToList().FindIndex(c => c.Caption.First == asked.First);
        if (at < 0 || track[at].Text != (asked.Was ?? "").ReplaceLineEndings("\n"))
        {
            return Bad("The captions were changed since this page was loaded. Look at them as they are now, and repeat it.");
        }
        try
        {
            if (change(at) is not var (made, of))
            {
                return Redirect(Address(From));
            }
            return Answer(
                setup => setup.Fix(Language, [.. made.Select(c => (Guid.NewGuid(), c))], [.. of.Select(c => c.Name).OfType<string>()]),
                $"“{Short(track[at])}” {done}{(Language.Length > 0 ? ", in " + Language : "")}",
                Address(From)
            );
        }
        catch (EditRefusedException refused)
        {
            return Bad(refused.Message);
        }
    }

    private IActionResult Answer(Func<CaptionSetup, CaptionEdit> change, string said, string? to) =>
        Try(NewsOf.Captions, () => captions.Change(Stored.Id, change, said, Who)) is { } refused
            ? Bad(refused)
            : Redirect(to is { Length: > 0 } ? to : Address(language: to));

    private PageResult Bad(string message)
    {
        Message = message;
        Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        return Page();
    }

    private LaidCaption Translated(LaidCaption caption) => Language.Length > 0 && caption.Name is null ? throw Untranslated() : caption;

    private EditRefusedException Untranslated() => new($"There are no words in {Language} yet. Type them first.");

    private static string Short(LaidCaption caption) =>
        caption.Text.ReplaceLineEndings(" ") is { Length: > 40 } text ? text[..40] + "…" : caption.Text.ReplaceLineEndings(" ");

    // Empty, and as it was shown, is as it stands: what is shown is rounded.
    private static MediaTime Time(string? typed, MediaTime now) =>
        string.IsNullOrWhiteSpace(typed) || typed.Trim() == Clock(now)
            ? now
            : ClockText.Read(typed) ?? throw new EditRefusedException($"“{typed}” is no time. Type minutes and seconds, as 1:02.500.");

    private void Load(string? language, int from, bool look, int? open)
    {
        Stored = Desk.StoryOf(Production, Who);
        var setup = captions.Of(Stored.Id);
        (Rules, Languages) = (setup.Rules, setup.Languages);
        Language = Languages.FirstOrDefault(l => l == language, "");
        (IsLook, Open) = (look, open);
        try
        {
            var story = handoff.Of(Production, Stored);
            track = Language.Length == 0 ? story.Track(Rules) : story.Track(Rules, Language);
        }
        catch (EditRefusedException refused)
        {
            Message = refused.Message;
            track = [];
        }
        var all = track.Select((c, i) => new ShownCaption(i + 1, c, CaptionLook.Of(c, Rules, Language))).ToList();
        var listed = look ? [.. all.Where(c => c.Look.Count > 0)] : all;
        Count = (all.Count, all.Count(c => c.Look.Count > 0), listed.Count);
        From = open is { } first && listed.FindIndex(c => c.Laid.Caption.First == first) is >= 0 and var at ? at / Part * Part : from;
        From = Math.Clamp(From, 0, Math.Max(0, (listed.Count - 1) / Part * Part));
        Shown = listed.GetRange(From, Math.Min(Part, listed.Count - From));
    }

    /// <summary>Which caption a form is about, as it was shown, and where the page stood.</summary>
    public sealed class Asked
    {
        public string? Language { get; set; }

        public int From { get; set; }

        public bool Look { get; set; }

        public int First { get; set; } = -1;

        public string? Was { get; set; }
    }

    /// <summary>A caption with its number, and what to look at in it.</summary>
    public sealed record ShownCaption(int Number, LaidCaption Laid, IReadOnlyList<string> Look);
}
