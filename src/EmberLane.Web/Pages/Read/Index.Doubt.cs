using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Read;

/// <summary>What a person is asked where the number of voices of the text could not be told for sure.</summary>
public sealed partial class IndexModel
{
    /// <summary>How many numbers are offered beside the one that was found.</summary>
    private const int Offered = 3;

    private DoubtedVoices? doubted;

    /// <summary>Whether there may be another number of voices than the text has; null when that is sure.</summary>
    public DoubtedVoices? Doubt => AskedVoices is null && doubted?.Perhaps != VoicesFound ? doubted : null;

    /// <summary>The number that was just asked for; null when none was.</summary>
    public int? AskedVoices { get; private set; }

    public int VoicesFound => Transcript!.Voices().Count;

    /// <summary>The likeliest first, then those nearest to what was found.</summary>
    public IEnumerable<int> OtherNumbers =>
        Enumerable
            .Range(1, VoicesFound + Offered)
            .Where(n => n != VoicesFound)
            .OrderBy(n => n != Doubt!.Perhaps)
            .ThenBy(n => Math.Abs(n - VoicesFound))
            .Take(Offered);

    /// <summary>Turns to hear: the first word of each, and its time.</summary>
    public IEnumerable<(WordNumber Word, string At)> ToHear(IReadOnlyList<SittingRange> turns) =>
        turns
            .Select(t => (Turn: t, Word: Transcript!.Words.FirstOrDefault(w => w.Range.Out > t.In && w.Range.In < t.Out)))
            .Where(t => t.Word is not null)
            .Select(t => (t.Word!.Number, t.Turn.In.ToString()));

    public IActionResult OnGetDoubt(long sitting) => Load(sitting) && Transcript is not null ? Partial("_Doubt", this) : NotFound();

    /// <summary>Has the voices of the words as they are found anew, so many of them: another text, to be chosen or not.</summary>
    public IActionResult OnPostVoicesAgain(long sitting, int number) =>
        Doubted(
            sitting,
            _ =>
            {
                if (number is < 1 or > TextsModel.MostVoices)
                {
                    throw new EditRefusedException($"So many voices can not be told apart; choose from 1 to {TextsModel.MostVoices}.");
                }
                if (jobs.Newest(WorkKinds.Transcribe, sitting) is { IsOpen: true })
                {
                    throw new EditRefusedException("A transcription of this sitting is under way. Wait until it is done, or cancel it.");
                }
                jobs.Add(
                    Production.Id,
                    WorkKinds.Transcribe,
                    sitting,
                    $"Voices of {Sitting!.Title}",
                    new TranscribeOrder(Recognisers.SameWords, TranscribeOrder.English, null, number).ToString()
                );
                AskedVoices = number;
            }
        );

    /// <summary>The number that was found is right; the page does not ask again.</summary>
    public IActionResult OnPostVoicesRight(long sitting) => Doubted(sitting, transcripts.SettleVoices);

    private IActionResult Doubted(long sitting, Action<long> change)
    {
        if (!Load(sitting) || Transcript is null)
        {
            return NotFound();
        }
        if (Try(NewsOf.Words, () => change(Sitting!.TranscriptId!.Value)) is { } refused)
        {
            return Refused(refused);
        }
        doubted = transcripts.DoubtOf(Sitting!.TranscriptId!.Value);
        return Partial("_Doubt", this);
    }
}
