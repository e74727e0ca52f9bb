namespace EmberLane.Core.Import;

/// <summary>A word of a typed text: the line it stands in, from 1, and who says it, or null.</summary>
public sealed record TypedWord(string Text, int Line, string? Who);

/// <summary>
/// A typed word with its time, how sure that is, and which word of the heard text it lies beside (−1 for none). For one that was not heard:
/// which voice speaks there, and whether there is room at all for saying it.
/// </summary>
public sealed record LaidWord(TypedWord Word, SittingRange Range, PerMille Sure, int Heard, int? Voice = null, bool HasRoom = true);

/// <summary>
/// A place where the two texts do not fit: what was typed and not heard, or heard and not typed. Words by their numbers, the last included;
/// for what was not heard the moment is where it would be.
/// </summary>
public sealed record Misfit(bool Typed, int First, int Last, SittingRange Range, string Said);

/// <summary>A typed text laid onto the sound.</summary>
public sealed record LaidText(IReadOnlyList<LaidWord> Words, IReadOnlyList<Misfit> Misfits)
{
    /// <summary>How many of a hundred typed words were heard.</summary>
    public int HeardPercent => Words.Count == 0 ? 0 : 100 * Words.Count(w => w.Heard >= 0) / Words.Count;
}
