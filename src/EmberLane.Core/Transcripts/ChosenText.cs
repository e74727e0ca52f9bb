using EmberLane.Core.Edits;

namespace EmberLane.Core.Transcripts;

/// <summary>Which of its texts a sitting is read by, by id; null: by none.</summary>
public sealed record ChosenText(long? Text) : IEdit<ChosenText, ChosenText>
{
    /// <inheritdoc/>
    public (ChosenText State, ChosenText Inverse) Apply(ChosenText state) => (this, state);

    /// <inheritdoc/>
    public static IEnumerable<string> Touches(ChosenText edit, ChosenText inverse) => ["choice"];
}
