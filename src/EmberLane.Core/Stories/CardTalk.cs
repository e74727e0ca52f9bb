using EmberLane.Core.Bites;
using EmberLane.Core.Captions;
using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Stories;

/// <summary>What is said in a story, word by word on its own clock, which begins at zero.</summary>
public static class CardTalk
{
    /// <summary>
    /// The words of a card whose parts are shown from frame <paramref name="first"/> of the story on; in a text of its sitting, which is
    /// the one that the bite was marked on or another. A word is held to the part in which its middle lies; what lies in none is left out.
    /// Linear.
    /// </summary>
    public static IReadOnlyList<CaptionWord> Of(
        Card card,
        Bite bite,
        Transcript text,
        bool isOwn,
        IReadOnlyList<CardFrames> parts,
        FrameRate rate,
        long first
    )
    {
        if (CardWords.PlaceOf(bite, text, isOwn, card.Range) is not var (from, to))
        {
            return [];
        }
        var words = new List<CaptionWord>();
        foreach (var unit in text.Units(from, to, false, false))
        {
            SittingTime begin = unit[0].Range.In,
                end = unit.Max(w => w.Range.Out);
            if (OnRecord(begin, end, parts, rate, first) is { } range)
            {
                words.Add(
                    new CaptionWord(
                        new RecognisedWord(text.Said(unit), range, unit[0].Confidence) { Voice = text.NameOf(text.VoiceOf(unit[0])) },
                        card.Id,
                        card.SittingId,
                        new SittingRange(begin, end)
                    )
                    {
                        Numbers = (unit[0].Number, unit[^1].Number),
                    }
                );
            }
        }
        return [.. words.OrderBy(w => w.Word.Range.In)];
    }

    /// <summary>The words of a text that is read in so long from a moment on, by their letters.</summary>
    public static IReadOnlyList<CaptionWord> Read(Narration narration, MediaTime from, MediaTime lasting, string who)
    {
        var words = narration.Words.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
        var letters = words.Sum(w => w.Length + 1);
        var before = 0;
        var read = new List<CaptionWord>(words.Length);
        foreach (var (number, word) in words.Index())
        {
            var range = new SourceRange(Along(before), Along(before + word.Length));
            read.Add(
                new CaptionWord(
                    new RecognisedWord(word, range, null, who),
                    narration.Id,
                    0,
                    new SittingRange(
                        new SittingTime(MediaTime.FromMilliseconds(number)),
                        new SittingTime(MediaTime.FromMilliseconds(number + 1))
                    )
                )
            );
            before += word.Length + 1;
        }
        return read;

        SourceTime Along(int letter) => new(from + new MediaTime((long)((Int128)lasting.Units * letter / Math.Max(1, letters))));
    }

    private static SourceRange? OnRecord(SittingTime begin, SittingTime end, IReadOnlyList<CardFrames> parts, FrameRate rate, long first)
    {
        var middle = begin + new MediaTime((end - begin).Units / 2);
        foreach (var part in parts)
        {
            var shown = part.Shown(rate);
            if (shown.In <= middle && middle < shown.Out)
            {
                var at = rate.TimeOf(first);
                var from = begin < shown.In ? shown.In : begin;
                var to = end > shown.Out ? shown.Out : end;
                return new SourceRange(new SourceTime(at + (from - shown.In)), new SourceTime(at + (to - shown.In)));
            }
            first += part.Count;
        }
        return null;
    }
}
