using System.Text;
using EmberLane.Core;
using EmberLane.Core.Handoff;
using EmberLane.Core.Stories;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Handoff;

/// <summary>Hand-off: what to settle first, then the lists.</summary>
public sealed class IndexModel(Footage footage, Desk desk, Store.Stories stories) : LiveRoom(footage, desk)
{
    public override string Room => "Handoff";

    public StoredStory Stored { get; private set; } = null!;

    public IReadOnlyList<Check> Checks { get; private set; } = [];

    /// <summary>The decision list as it would be downloaded: one text a file.</summary>
    public IReadOnlyList<string> Lists { get; private set; } = [];

    public int EventCount { get; private set; }

    /// <summary>What was chosen and refused, so that nothing typed is lost.</summary>
    public string? TypedStart { get; private set; }

    /// <summary>The counting that the form shows: the one that was chosen, also when the start time with it was refused.</summary>
    public TimecodeCount? Chosen { get; private set; }

    public MediaTime Running => Desk.CutOf(Stored).RunningTime(Stored.Start.Count.Rate);

    public string FileStem =>
        string.Concat(Stored.Title.ToLowerInvariant().Select(c => char.IsAsciiLetterOrDigit(c) ? c : '_')).Trim('_') is { Length: > 0 } stem
            ? stem
            : "story";

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
        return EdlFiles.Of(Lists, FileStem);
    }

    /// <summary>The story as a text to read.</summary>
    public IActionResult OnGetText()
    {
        Load();
        var shown = Desk.Cards(Stored);
        var cut = Desk.CutOf(Stored);
        var text = PaperEdit.Write(
            Stored.Title,
            Stored.Start,
            [
                .. Stored.Story.Pieces.Select(p =>
                    p is Card c
                        ? new PaperLine(
                            c,
                            cut.Frames(c, Stored.Start.Count.Rate),
                            shown[c.Id].Speaker,
                            shown[c.Id].Bite.Theme,
                            shown[c.Id].Said,
                            shown[c.Id].Sitting.Title
                        )
                        : new PaperLine(p, cut.Frames(p, Stored.Start.Count.Rate), "", "", StoryWords.Named(p, _ => ""), "")
                ),
            ]
        );
        return File(Encoding.UTF8.GetBytes(text), "text/plain; charset=utf-8", FileStem + ".txt");
    }

    private void Load()
    {
        Stored = Desk.StoryOf(Production, Who);
        Checks = Desk.Checks(Production, Stored);
        if (Stored.Story.Cards.Count == 0)
        {
            return;
        }
        try
        {
            var list = Desk.EventsOf(Stored);
            EventCount = list.Events.Count;
            Lists = EdlWriter.Write(list);
        }
        catch (EditRefusedException refused)
        {
            Message = refused.Message;
        }
    }
}
