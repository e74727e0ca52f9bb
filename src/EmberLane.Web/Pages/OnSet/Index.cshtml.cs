using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using EmberLane.Application.Rooms;
using EmberLane.Application.Tidying;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Marks;
using EmberLane.Core.People;
using EmberLane.Core.SetFlags;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using EmberLane.Web.Uploads;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.OnSet;

/// <summary>A flag with where it lies; null where nothing rolled. <paramref name="IsLaid"/>: it stands in the sitting's text.</summary>
public sealed record ShownFlag(SetFlag Flag, FlaggedMoment? Moment, Sitting? Sitting, bool IsLaid);

/// <summary>
/// On set: one large button beside the camera that stamps a flag with the time of day; and the flags, laid onto the sittings.
/// </summary>
[Needs(Rights.Mark | Rights.Log)]
public sealed class IndexModel(
    Footage footage,
    Desk desk,
    Store.SetFlags flags,
    Productions productions,
    Store.Transcripts transcripts,
    Store.Bites bites,
    Findings findings,
    TimeProvider clock
) : LiveRoom(footage, desk)
{
    /// <summary>So many flags are shown, the newest.</summary>
    public const int MostShown = 500;

    private const string CorrectionKey = "onset.correction";

    /// <summary>A clock is at most so far off; more is another time zone or a mistake.</summary>
    private const int MostSeconds = 86_400;

    private readonly Footage footage = footage;

    public override string Room => "Gather";

    public IReadOnlyList<ShownFlag> Flags { get; private set; } = [];

    /// <summary>Flags that were taken away.</summary>
    public IReadOnlyList<SetFlag> Away { get; private set; } = [];

    /// <summary>What is added to the flags' times, since their clock and the cameras' differ.</summary>
    public MediaTime Correction { get; private set; }

    /// <summary>What was done, to be read once.</summary>
    public string? Done { get; private set; }

    /// <summary>How many flags lie in a text's stretch and do not stand in it yet.</summary>
    public int Layable => Flags.Count(f => f is { IsLaid: false, Sitting.TranscriptId: not null });

    public string LayButton =>
        Layable switch
        {
            0 => "Nothing to put into the text",
            1 => "Put 1 flag into the text",
            var many => $"Put {many} flags into the text",
        };

    public string CorrectionSeconds => (Correction.ToMillisecondsRounded() / 1000m).ToString("0.###", CultureInfo.InvariantCulture);

    public void OnGet() => Load();

    /// <summary>The flags again, where they are others than the page that asks shows.</summary>
    public IActionResult OnGetFlags(string? seen)
    {
        Load();
        return seen == Seen ? new NoContentResult() : Partial("_Flags", this);
    }

    /// <summary>Tells one state of the list from another.</summary>
    public string Seen =>
        Convert.ToHexStringLower(
            SHA256.HashData(
                Encoding.UTF8.GetBytes(
                    string.Join(
                        '\n',
                        [CorrectionSeconds, .. Flags.Select(f => $"{f.Flag.Id} {f.Sitting} {f.IsLaid}"), .. Away.Select(a => $"{a.Id}")]
                    )
                )
            )
        )[..16];

    /// <summary>All flags as a table.</summary>
    public FileContentResult OnGetCsv() =>
        File(
            Encoding.UTF8.GetBytes(SetFlagTable.Write(flags.Of(Production.Id).Where(f => !f.IsAway).Select(f => f.Flag).Reverse())),
            "text/csv; charset=utf-8",
            "flags.csv"
        );

    /// <summary>
    /// Keeps a flag: the day and the milliseconds since midnight by the sender's clock, or by ours where it sends none. One that comes
    /// again, by its id, is kept once.
    /// </summary>
    public IActionResult OnPostStamp(Guid? id, string? day, long? at, string? who, string? words)
    {
        var now = clock.GetLocalNow();
        if (!ModelState.IsValid)
        {
            return Refused("The flag did not arrive whole.", StatusCodes.Status400BadRequest);
        }
        var on =
            day is null ? DateOnly.FromDateTime(now.DateTime)
            : DateOnly.TryParseExact(day, "yyyy-MM-dd", CultureInfo.InvariantCulture, default, out var sent) ? sent
            : (DateOnly?)null;
        if (on is null)
        {
            return Refused("The flag’s day is not one, as 2026-09-14 is.", StatusCodes.Status400BadRequest);
        }
        return Try(
                NewsOf.Gather,
                () =>
                    flags.Keep(
                        Production.Id,
                        [
                            SetFlag.Of(
                                id ?? Guid.NewGuid(),
                                on.Value,
                                MediaTime.FromMilliseconds(
                                    Math.Clamp(at ?? (long)now.TimeOfDay.TotalMilliseconds, -1, MostSeconds * 1000L)
                                ),
                                string.IsNullOrWhiteSpace(who) ? Who : who,
                                words ?? ""
                            ),
                        ]
                    )
            )
                is { } refused
                ? Refused(refused)
            : IsFragment ? Shown("")
            : Back();
    }

    public IActionResult OnPostAway(Guid id, bool away) =>
        flags.TakeAway(Production.Id, id, away) ? Answer(away ? "Taken away; it is kept below." : "It is back.") : NotFound();

    /// <summary>Brings flags in from a table; the same flag twice is once.</summary>
    public async Task<IActionResult> OnPostBringAsync(IFormFile? file, string? pasted)
    {
        try
        {
            var (_, text) = await TextUpload.ReadAsync(file, pasted, HttpContext.RequestAborted);
            var read = SetFlagTable.Read(text, DateOnly.FromDateTime(clock.GetLocalNow().DateTime));
            var kept = flags.Keep(Production.Id, read);
            return Answer($"{Many.Of(kept, "flag")} brought in{(kept < read.Count ? $"; {read.Count - kept} were there already" : "")}.");
        }
        catch (FormatException bad)
        {
            return Refused(bad.Message, StatusCodes.Status422UnprocessableEntity);
        }
    }

    /// <summary>How many seconds are added to the flags' times.</summary>
    public IActionResult OnPostCorrection(string? seconds)
    {
        var typed = (seconds ?? "").Trim().Replace(',', '.').Replace('−', '-');
        if (
            !decimal.TryParse(
                typed,
                NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var by
            )
            || Math.Abs(by) > MostSeconds
        )
        {
            return Refused("Type by how many seconds the flags’ clock is behind, as 2.5, or -2.5 where it is ahead.");
        }
        var milliseconds = ((long)Math.Round(by * 1000)).ToString(CultureInfo.InvariantCulture);
        return
            Try(
                NewsOf.Gather,
                () => productions.Choose(Production.Id, Who, $"flags from the set are {by} s later", (CorrectionKey, milliseconds))
            )
                is { } refused
            ? Refused(refused)
            : Answer("All flags lie by the corrected time now.");
    }

    /// <summary>Puts the flags that lie in a text into it, as flags before the words that are said there; each text logs its own.</summary>
    [Needs(Rights.Log | Rights.Mark)]
    public IActionResult OnPostLay()
    {
        Load();
        var groups = Flags
            .Where(f => f is { IsLaid: false, Sitting.TranscriptId: not null })
            .GroupBy(f => f.Sitting!.TranscriptId!.Value)
            .ToList();
        if (groups.Count == 0)
        {
            return Refused("No flag lies in a text and is not there yet.");
        }
        var refused = Try(
            NewsOf.Words,
            () => transcripts.ApplyAll([.. groups.Select(g => (g.Key, (Func<Transcript, TranscriptEdit?>)(text => Laid(text, g))))], Who)
        );
        return refused is null
            ? Answer($"{Many.Of(groups.Sum(g => g.Count()), "flag")} put into the text. Undo in Read takes them out.")
            : Refused(refused);
    }

    private TranscriptEdit? Laid(Transcript text, IEnumerable<ShownFlag> some) =>
        Marking.All([
            .. some.Select(f => (Flag: f, Place: MarkPlace.At(text, f.Moment!.At)))
                .Where(f => f.Place is not null)
                .Select(
                    (f, i) =>
                        Marking.Over(
                            text,
                            MarkKind.LookAgain,
                            f.Place!.Value,
                            f.Place.Value,
                            new Signed(Who, clock.GetUtcNow()),
                            NoteOf(f.Flag.Flag),
                            i
                        )
                ),
        ]);

    /// <summary>Keeps a first bite around a flag: 15 s before and behind it, fitted to whole sentences.</summary>
    public IActionResult OnPostBite(Guid id)
    {
        Load();
        if (Flags.FirstOrDefault(f => f.Flag.Id == id) is not { Sitting: { TranscriptId: { } text } sitting, Moment: { } moment } flag)
        {
            return Refused("That flag lies in no text: nothing rolled then, or the sitting is not transcribed yet.");
        }
        var talk = findings.Of(sitting).Text;
        if (AroundMoment.Of(talk.Talk, moment.At.FromZero) is not var (first, last))
        {
            return Refused("Nothing is said within 15 s of this flag.");
        }
        var (from, to) = (talk.FirstOf(first), talk.LastOf(last));
        return
            Try(
                NewsOf.Bites,
                () =>
                    bites.Add(
                        Bite.Of(
                            sitting.Id,
                            text,
                            talk.Text.At(from).Number,
                            talk.Text.At(to).Number,
                            talk.Text.RangeOf(from, to),
                            "",
                            NoteOf(flag.Flag),
                            Who
                        )
                    )
            )
                is { } refused
            ? Refused(refused)
            : Answer($"Kept as a bite of {talk.Text.RangeOf(from, to).Length}: “{BiteWords.Excerpt(talk.Text.Said(from, to))}”");
    }

    private static string DayOf(SetFlag flag) => flag.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    // The time tells it from another of the same person and words.
    private static string NoteOf(SetFlag flag) =>
        $"on set {SetFlagTable.ClockOf(flag.At)}"
        + (flag.Who.Length > 0 ? $", {flag.Who}" : "")
        + (flag.Words.Length > 0 ? $": {flag.Words}" : "");

    private IActionResult Answer(string done) => IsFragment ? Shown(done) : Back();

    private PartialViewResult Shown(string done)
    {
        Load();
        Done = done;
        return Partial("_Flags", this);
    }

    private RedirectResult Back() => Redirect(FormattableString.Invariant($"/productions/{Production.Id}/onset"));

    private void Load()
    {
        Correction = MediaTime.FromMilliseconds(
            long.TryParse(productions.Setting(Production.Id, CorrectionKey), CultureInfo.InvariantCulture, out var kept) ? kept : 0
        );
        var sources = footage
            .Sources(Production.Id)
            .Where(s => s is { SittingId: not null, Place: not null })
            .ToLookup(s => s.Day, s => new FlaggableSource(s.SittingId!.Value, s.Facts, s.Place!.Value, s.Day));
        var sittings = footage.Sittings(Production.Id).ToDictionary(s => s.Id);
        var notes = new Dictionary<long, IReadOnlySet<string>>();
        var all = flags.Of(Production.Id);
        Away = [.. all.Where(f => f.IsAway).Select(f => f.Flag)];
        Flags =
        [
            .. all.Where(f => !f.IsAway)
                .Select(f => (f.Flag, Moment: FlaggedMoment.Of(f.Flag, Correction, [.. sources[DayOf(f.Flag)], .. sources[""]])))
                .Select(f =>
                {
                    var sitting = f.Moment is null ? null : sittings.GetValueOrDefault(f.Moment.SittingId);
                    return new ShownFlag(f.Flag, sitting is null ? null : f.Moment, sitting, IsLaid(f.Flag, sitting));
                }),
        ];

        bool IsLaid(SetFlag flag, Sitting? sitting)
        {
            if (sitting?.TranscriptId is not { } id)
            {
                return false;
            }
            if (!notes.TryGetValue(id, out var laid))
            {
                laid = notes[id] = transcripts.FlagNotes(id);
            }
            return laid.Contains(NoteOf(flag));
        }
    }
}
