namespace EmberLane.Core.Import;

/// <summary>
/// A line or caption of a typed text as it was delivered: its number in the file, from 1, who says it (null when the text does not say),
/// the words, and its times by whatever clock the text counts, where it has any.
/// </summary>
public sealed record TypedLine(int Number, string? Who, string Said, MediaTime? In, MediaTime? Out);

/// <summary>
/// What a file of typed text holds. <see cref="Timed"/> are words that came with their own times; then there are no lines.
/// </summary>
public sealed record DeliveredText(IReadOnlyList<TypedLine> Lines, IReadOnlyList<Speech.RecognisedWord> Timed, string Language)
{
    /// <summary>The words of all lines in order.</summary>
    public IReadOnlyList<TypedWord> Words() =>
        [
            .. Lines.SelectMany(l =>
                l.Said.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Select(w => new TypedWord(w, l.Number, l.Who))
            ),
        ];
}
