using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Application.Rooms;
using EmberLane.Application.Tidying;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.People;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using EmberLane.Web.Uploads;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Script;

/// <summary>A word of a take, and whether the line has it.</summary>
public sealed record TakeWord(string Text, bool IsInLine);

/// <summary>
/// The written script: every line with its takes across the sittings, what is missing and what was said besides; and a story from it.
/// </summary>
[Needs(Rights.Log)]
public sealed class IndexModel(
    Footage footage,
    Desk desk,
    Scripts scripts,
    ScriptMatches matches,
    StoryTable table,
    SittingMics sittingMics,
    MediaCache cache
) : LiveRoom(footage, desk)
{
    /// <summary>So many lines, and stretches beside the script, are shown.</summary>
    public const int MostLines = 400,
        MostExtra = 100;

    private readonly Footage footage = footage;

    public override string Room => "Story";

    /// <inheritdoc/>
    public override string CommandPlace => CommandPlaces.Tidy;

    public KeptScript? Kept { get; private set; }

    public ScriptMatch? Match { get; private set; }

    /// <summary>The sittings that have a text, each with whether it is searched.</summary>
    public IReadOnlyList<(Sitting Sitting, bool IsSearched)> Sittings { get; private set; } = [];

    /// <summary>The sound of each sitting, where it can be played.</summary>
    public IReadOnlyDictionary<long, Played> Sounds { get; private set; } = new Dictionary<long, Played>();

    public string? Done { get; private set; }

    /// <summary>Why the script was not matched; null where it was, or there is none.</summary>
    public string? NotMatched { get; private set; }

    /// <summary>Lines that somebody says as they are written, says otherwise, and that nobody says.</summary>
    public (int AsWritten, int Changed, int Missing) Counts =>
        (
            Match!.Lines.Count(l => l.Best?.Take.Score >= LineTakes.AsWritten),
            Match.Lines.Count(l => l.Best?.Take.Score < LineTakes.AsWritten),
            Match.Lines.Count(l => l.Best is null)
        );

    public IActionResult OnGet()
    {
        Load();
        return IsFragment ? Partial("_Match", this) : Page();
    }

    /// <summary>Brings a script in, as text or a file; it lies over the one before, and choices of takes stay.</summary>
    public async Task<IActionResult> OnPostBringAsync(IFormFile? file, string? pasted)
    {
        try
        {
            var (name, text) = await TextUpload.ReadAsync(file, pasted, HttpContext.RequestAborted);
            scripts.Add(
                Production.Id,
                name.Length > Scripts.LongestName ? name[..Scripts.LongestName] : name,
                text,
                scripts.Newest(Production.Id)?.Sittings,
                Who
            );
        }
        catch (FormatException bad)
        {
            return Refused(bad.Message, StatusCodes.Status422UnprocessableEntity);
        }
        return Answer("The script is matched. Takes that you chose before are kept.");
    }

    /// <summary>Searches these sittings; none ticked is all.</summary>
    public IActionResult OnPostSittings(long[] sittings)
    {
        scripts.SearchIn(Production.Id, sittings.Length == 0 ? null : sittings);
        return Answer("");
    }

    /// <summary>Takes one take of a line for the story.</summary>
    public IActionResult OnPostChoose(int line, int take)
    {
        Load();
        if (Match?.Lines.FirstOrDefault(l => l.Line.Number == line) is not { } takes || take < 0 || take >= takes.Takes.Count)
        {
            return Refused("That take is not there any more. Look again.");
        }
        scripts.Choose(Production.Id, takes.Takes[take].Key, takes.Takes.Select(t => t.Key));
        return Answer($"Take {take + 1} of line {line} is chosen.");
    }

    /// <summary>
    /// Lays a story from the script at the end of the one in hand: the best take of each line in the script's order, its other takes beside
    /// it, and missing lines as spaces with their text.
    /// </summary>
    [Needs(Rights.Order)]
    public IActionResult OnPostLay()
    {
        Load();
        if (Match is null)
        {
            return Refused(NotMatched ?? "Bring a script in first.");
        }
        var laid = new List<LaidTakes>();
        var missing = new List<string>();
        foreach (var line in Match.Lines)
        {
            if (line.Best is { } best)
            {
                laid.Add(
                    new LaidTakes(
                        BiteOf(line, best),
                        [.. line.Takes.Where(t => t != best).Select(t => BiteOf(line, t))],
                        string.Join('\n', missing),
                        ""
                    )
                );
                missing.Clear();
            }
            else
            {
                missing.Add(line.Line.Text);
            }
        }
        if (laid.Count == 0)
        {
            return Refused("Nobody says a line of this script in these sittings, so that there is nothing to lay.");
        }
        laid[^1] = laid[^1] with { SpaceAfter = string.Join('\n', missing) };
        return Try(NewsOf.Story, () => table.KeepAndLay(Desk.StoryToChange(Production, Who), laid, Who)) is { } refused
            ? Refused(refused)
            : Answer($"{Many.Of(laid.Count, "card")} laid at the story’s end. Undo in Story takes them out in one step.");
    }

    /// <summary>What a take says, word by word, beside the line.</summary>
    public static IReadOnlyList<TakeWord> WordsOf(LineTakes line, LineTake take)
    {
        var left = line.Line.Keys.GroupBy(k => k).ToDictionary(g => g.Key, g => g.Count());
        return
        [
            .. take
                .Text.Talk.Words.Skip(take.Take.First)
                .Take(take.Take.Last - take.Take.First + 1)
                .Select(w => new TakeWord(
                    w.Text,
                    w.Key.Length == 0 || (left.TryGetValue(w.Key, out var n) && n > 0 && (left[w.Key] = n - 1) >= 0)
                )),
        ];
    }

    /// <summary>Which stretch of which sitting is heard of a take, for the page's script.</summary>
    public static string Heard(LineTake take) =>
        FormattableString.Invariant(
            $"{take.Text.Talk.Words[take.Take.First].In.ToSecondsText()} {take.Text.Talk.Words[take.Take.Last].Out.ToSecondsText()}"
        );

    public string WordLink(Sitting sitting, TextTalk text, int word) =>
        FormattableString.Invariant($"/productions/{Production.Id}/read/{sitting.Id}#word-{text.Text.At(text.FirstOf(word)).Number}");

    private Bite BiteOf(LineTakes line, LineTake take)
    {
        var text = take.Text.Text;
        var (first, last) = (take.Text.FirstOf(take.Take.First), take.Text.LastOf(take.Take.Last));
        return Bite.Of(
            take.Sitting.Id,
            take.Key.TranscriptId,
            take.Key.First,
            take.Key.Last,
            text.RangeOf(first, last),
            string.Create(CultureInfo.InvariantCulture, $"script, line {line.Line.Number}"),
            line.Line.Text.Length > BiteEdit.LongestNote ? line.Line.Text[..BiteEdit.LongestNote] : line.Line.Text,
            Who
        );
    }

    private IActionResult Answer(string done)
    {
        if (!IsFragment)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/script"));
        }
        Load();
        Done = done;
        return Partial("_Match", this);
    }

    private void Load()
    {
        Kept = scripts.Newest(Production.Id);
        try
        {
            Match = matches.Of(Production.Id);
        }
        catch (EditRefusedException tooMuch)
        {
            NotMatched = tooMuch.Message;
        }
        var read = footage.Sittings(Production.Id).Where(s => s.TranscriptId is not null).ToList();
        Sittings = [.. read.Select(s => (s, Kept?.Sittings is null || Kept.Sittings.Contains(s.Id)))];
        Sounds = read.Select(s => (s.Id, PlayedSitting.Of(s, footage.SourcesOf(s.Id), sittingMics.Of(s), cache, null).Sound))
            .Where(s => s.Sound is { Address: not null })
            .ToDictionary(s => s.Id, s => s.Sound!);
    }
}
