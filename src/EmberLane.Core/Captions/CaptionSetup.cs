using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using EmberLane.Core.Edits;
using CaptionEdit = EmberLane.Core.Edits.ChoiceEdit<EmberLane.Core.Captions.CaptionSetup>;

namespace EmberLane.Core.Captions;

/// <summary>
/// What people made of the captions of a story: how they are made, and each that is fixed, under a name of its own; the empty language is
/// the one that is spoken.
/// </summary>
public sealed record CaptionSetup(ImmutableSortedDictionary<string, string> Choices) : IChoices<CaptionSetup>
{
    /// <summary>A language has a name of so many characters at most.</summary>
    public const int LongestLanguage = 40;

    private const string FixedBy = "caption ",
        RuleBy = "rule ";

    /// <summary>
    /// A choice as it is kept where sittings have other numbers, which <paramref name="sitting"/> gives; a value of null stays so. Throws
    /// <see cref="JsonException"/> for a caption that can not be read.
    /// </summary>
    public static string? Renumbered(string name, string? value, Func<long, long> sitting) =>
        value is null || !name.StartsWith(FixedBy, StringComparison.Ordinal) ? value
        : JsonSerializer.Deserialize<FixedCaption>(value) is { } caption
            ? JsonSerializer.Serialize(
                caption with
                {
                    Places = [.. caption.Places.Select(p => p.Sitting == 0 ? p : p with { Sitting = sitting(p.Sitting) })],
                }
            )
        : value;

    /// <summary>Nothing was chosen.</summary>
    public static readonly CaptionSetup Empty = new(ImmutableSortedDictionary.Create<string, string>(StringComparer.Ordinal));

    /// <inheritdoc/>
    public static CaptionSetup Of(ImmutableSortedDictionary<string, string> choices) => new(choices);

    /// <summary>How captions are made.</summary>
    public CaptionRules Rules =>
        new CaptionRules() is var usual
            ? usual with
            {
                Line = Whole("line", usual.Line),
                Lines = Whole("lines", usual.Lines),
                Speed = Whole("speed", usual.Speed),
            }
            : usual;

    /// <summary>Those into which captions were translated, by name.</summary>
    public IReadOnlyList<string> Languages => [.. Fixed().Select(f => f.Language).Where(l => l.Length > 0).Distinct()];

    /// <summary>The captions of a language that are fixed, each with the name of its choice.</summary>
    public IReadOnlyList<(string Name, FixedCaption Caption)> Of(string language) =>
        [.. Fixed().Where(f => f.Language == language).Select(f => (f.Name, JsonSerializer.Deserialize<FixedCaption>(Choices[f.Name])!))];

    /// <summary>
    /// Fixes captions of a language, each under a new name; any other that shares words with them is let go, and those named.
    /// </summary>
    public CaptionEdit Fix(string language, IReadOnlyList<(Guid Id, FixedCaption Caption)> captions, params IReadOnlyList<string> instead)
    {
        var places = captions.SelectMany(c => c.Caption.Places).ToLookup(p => p.Piece);
        return ChoiceEdit.Of<CaptionSetup>([
            .. Of(language)
                .Where(f => f.Caption.Places.Any(own => places[own.Piece].Any(own.Meets)))
                .Select(f => f.Name)
                .Concat(instead)
                .Distinct()
                .Select(name => (name, (string?)null)),
            .. captions.Select(c => ($"{FixedBy}{language}\n{c.Id:N}", (string?)JsonSerializer.Serialize(c.Caption))),
        ]);
    }

    /// <summary>The same without the captions of which a place is one of these.</summary>
    public CaptionSetup WithoutPlaces(Func<CaptionPlace, bool> which) =>
        new(
            Choices.RemoveRange(
                Fixed().Where(f => JsonSerializer.Deserialize<FixedCaption>(Choices[f.Name])!.Places.Any(which)).Select(f => f.Name)
            )
        );

    /// <summary>Has captions be as they are made again.</summary>
    public static CaptionEdit LetGo(params IReadOnlyList<string> names) =>
        ChoiceEdit.Of<CaptionSetup>([.. names.Select(n => (n, (string?)null))]);

    /// <summary>Takes a language away.</summary>
    public CaptionEdit Without(string language) => LetGo([.. Of(language).Select(f => f.Name)]);

    /// <summary>Has captions made by other rules. Throws <see cref="FormatException"/> that names one that can not be kept.</summary>
    public static CaptionEdit By(CaptionRules rules)
    {
        _ = rules.Check();
        var usual = new CaptionRules();
        return ChoiceEdit.Of<CaptionSetup>(
            (RuleBy + "line", Text(rules.Line, usual.Line)),
            (RuleBy + "lines", Text(rules.Lines, usual.Lines)),
            (RuleBy + "speed", Text(rules.Speed, usual.Speed))
        );

        static string? Text(int value, int usual) => value == usual ? null : value.ToString(CultureInfo.InvariantCulture);
    }

    /// <summary>
    /// The name of a language as it is kept. Throws <see cref="EditRefusedException"/> for one that is none, or too long.
    /// </summary>
    public static string LanguageOf(string? typed) =>
        TypedText.OneLine(typed ?? "") is { Length: > 0 and <= LongestLanguage } name
            ? name
            : throw new EditRefusedException($"Say into which language it was translated, in at most {LongestLanguage} characters.");

    private IEnumerable<(string Language, string Name)> Fixed() =>
        Choices.Keys.Where(k => k.StartsWith(FixedBy, StringComparison.Ordinal)).Select(k => (k[FixedBy.Length..k.LastIndexOf('\n')], k));

    private int Whole(string rule, int usual) =>
        Choices.TryGetValue(RuleBy + rule, out var value) ? int.Parse(value, CultureInfo.InvariantCulture) : usual;
}
