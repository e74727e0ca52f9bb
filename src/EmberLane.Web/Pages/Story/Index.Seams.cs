using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Stories;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using EmberLane.Web.Rooms.Drawn;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Story;

/// <content>Seams: laid open, mended, moved by hand.</content>
public sealed partial class IndexModel
{
    /// <summary>The story with a seam laid open, by the card before it; or closed, when it is open already.</summary>
    public PartialViewResult OnGetSeam(int shown)
    {
        Load(shown);
        return Answer();
    }

    /// <summary>
    /// Moves the end of the card before a seam, the begin of the one behind it, or both, by so many words, frames, milliseconds or samples.
    /// </summary>
    public IActionResult OnPostNudge(long version, Guid? ends, Guid? begins, string? unit, int by) =>
        Change(story =>
        {
            var shown = At(story, version);
            by = Math.Clamp(by, -100_000, 100_000);
            if (unit == "word")
            {
                var moved = new[] { (Card: ends, End: BiteEnd.Stop), (Card: begins, End: BiteEnd.Begin) };
                table.StretchByWords(
                    shown,
                    [.. moved.Where(m => m.Card is not null).Select(m => (m.Card!.Value, m.End))],
                    Math.Clamp(by, -MostWords, MostWords),
                    Who
                );
                return;
            }
            var step = unit switch
            {
                "frame" => shown.Start.Count.Rate.TimeOf(by),
                "sample" => new MediaTime(by * (MediaTime.UnitsPerSecond / Loupe.SamplesASecond)),
                _ => MediaTime.FromMilliseconds(by),
            };
            table.Nudge(shown, ends, begins, step, Who);
        });

    /// <summary>Gives the ends at a seam back as they were laid.</summary>
    public IActionResult OnPostAsItWas(long version, Guid? ends, Guid? begins) =>
        Change(story => table.AsItWas(At(story, version), [.. new[] { ends, begins }.OfType<Guid>()], Who));

    /// <summary>Mends the ends at a seam.</summary>
    public IActionResult OnPostMend(long version, Guid? ends, Guid? begins) =>
        Change(story => table.Mend(At(story, version), ends, begins, Who));

    /// <summary>Mends all ends that can be.</summary>
    public IActionResult OnPostMendAll(long version) => Change(story => table.MendAll(At(story, version), Who));

    private Loupe? LoupeOf(string? seam)
    {
        if (!Guid.TryParse(seam, out var id) || !SeamAfter.TryGetValue(id, out var judged))
        {
            return null;
        }
        Card? CardOf(Guid card) => ById.GetValueOrDefault(card) as Card;
        return new Loupe(judged, Side(CardOf(judged.Card), isEnd: true), Side(CardOf(judged.Next), isEnd: false));
    }

    private LoupeSide? Side(Card? card, bool isEnd)
    {
        if (card is null || Cut.Of(card) is not { Count: > 0 } parts)
        {
            return null;
        }
        var cut = isEnd ? parts[^1].Out : parts[0].In;
        var window = Loupe.Window(cut, isEnd);
        var textId = footage.Sitting(card.SittingId)?.TranscriptId;
        var words = textId is { } id ? Loupe.WordsIn(transcripts.Get(id), window) : [];
        var sitting = Sittings[card.SittingId];
        return new LoupeSide(
            card,
            Shown[card.Id].Mark,
            cut,
            window,
            new Alike<double>(sounds.Of(card.SittingId) is { } sound ? Loupe.Loudness(sound, window) : []),
            new Alike<LoupeWord>(words),
            isEnd ? SeamAfter[card.Id].End : Seams.First(s => s.Next == card.Id).Begin,
            sounds.Of(card.SittingId)?.From,
            sitting.Sound is { } heardSound && heard.Of(heardSound.Id) is { } place
                ? (FormattableString.Invariant($"/media/{heardSound.Id}/play"), place)
                : null
        );
    }
}
