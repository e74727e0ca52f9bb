using EmberLane.Application.Work;
using EmberLane.Core.Speech;
using EmberLane.Engines.Speech;

namespace EmberLane.Application.Hands;

/// <summary>A recogniser whose pieces are errands.</summary>
internal sealed class HandedRecogniser(RecogniserChoice choice, IHands hands) : IRecogniser
{
    public PiecesTaken? Pieces =>
        choice.Recogniser.Pieces is { } own && hands.AtOnce is { } most ? own with { AtOnce = most } : choice.Recogniser.Pieces;

    public IReadOnlyList<string>? Languages => choice.Recogniser.Languages;

    public string? WhyNot(string language = "en") => choice.Recogniser.WhyNot(language);

    public async Task<WordList> RecogniseAsync(ToRecognise sound, CancellationToken cancel)
    {
        var errand = SpeechErrand.Of(choice.Key, sound, PcmFile.LengthOfWav(sound.WavPath));
        return SpeechErrand.Read(errand, await hands.DoAsync(errand, (_, _) => { }, cancel));
    }
}
