using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Captions;

/// <summary>
/// A word that captions are made of, on the clock of what they belong to: in which piece it is said, of which sitting (0 for none), and
/// when there; a narration, which is of none, counts its words by milliseconds.
/// </summary>
public sealed record CaptionWord(RecognisedWord Word, Guid Piece, long Sitting, SittingRange Said)
{
    /// <summary>
    /// The first and the last of what is one word to read, by number in the text that it is of; null for what is of none.
    /// </summary>
    public (WordNumber First, WordNumber Last)? Numbers { get; init; }

    /// <summary>By which it belongs to a place or not.</summary>
    public SittingTime Middle => Said.In + new MediaTime(Said.Length.Units / 2);
}

/// <summary>Words of a piece, of which sitting, by when they are said.</summary>
public sealed record CaptionPlace(Guid Piece, long Sitting, SittingRange Range)
{
    /// <summary>Where words lie, piece by piece.</summary>
    public static IReadOnlyList<CaptionPlace> Of(IReadOnlyList<CaptionWord> words)
    {
        var places = new List<CaptionPlace>();
        foreach (var word in words)
        {
            if (places.Count > 0 && places[^1] is var last && last.Piece == word.Piece)
            {
                places[^1] = last with
                {
                    Range = new SittingRange(
                        word.Said.In < last.Range.In ? word.Said.In : last.Range.In,
                        word.Said.Out > last.Range.Out ? word.Said.Out : last.Range.Out
                    ),
                };
            }
            else
            {
                places.Add(new CaptionPlace(word.Piece, word.Sitting, word.Said));
            }
        }
        return places;
    }

    /// <summary>Whether a word lies in it, be it in another piece of the sitting by now.</summary>
    public bool Holds(CaptionWord word) =>
        (word.Piece == Piece || (Sitting != 0 && word.Sitting == Sitting)) && Range.In <= word.Middle && word.Middle < Range.Out;

    /// <summary>Whether two hold some of the same words.</summary>
    public bool Meets(CaptionPlace other) => Piece == other.Piece && Range.In < other.Range.Out && other.Range.In < Range.Out;
}
