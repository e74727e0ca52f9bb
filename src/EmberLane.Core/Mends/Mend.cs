using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Mends;

/// <summary>A change that is proposed: words from first to last, both included, are to read <see cref="By"/>, and why. <see cref="IsLikely"/> ones may be taken without a look at each.</summary>
public sealed record Mend(int First, int Last, string By, string Why, bool IsLikely)
{
    /// <summary>What it is known by while nobody changes these words.</summary>
    public string Key => FormattableString.Invariant($"{First}-{Last}-{By}");

    /// <summary>As many words as before keep their times each; otherwise the first takes the whole text and the others leave it.</summary>
    public IEnumerable<TranscriptEdit> Edits()
    {
        var words = By.Split(' ');
        var kept = words.Length == Last - First + 1;
        for (var word = First; word <= Last; word++)
        {
            yield return kept ? new Retype(word, words[word - First]) : word == First ? new Retype(word, By) : new HideWord(word, true);
        }
    }
}
