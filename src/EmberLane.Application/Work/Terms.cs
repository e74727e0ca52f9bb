using EmberLane.Core;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>Names and terms of a production that recognisers are told beforehand, as people typed them.</summary>
public sealed class Terms(Productions productions)
{
    private const string Setting = "terms";

    /// <summary>The most letters that are kept.</summary>
    public const int Most = 2_000;

    private static readonly char[] Between = [',', ';', '\n', '\r'];

    /// <summary>The terms in the order in which they were typed, each once.</summary>
    public IReadOnlyList<string> Of(long production) => [.. Typed(production).Split(", ", StringSplitOptions.RemoveEmptyEntries)];

    /// <summary>As they were typed; empty where nobody did.</summary>
    public string Typed(long production) => productions.Setting(production, Setting) ?? "";

    /// <summary>Keeps what was typed; throws <see cref="EditRefusedException"/> when it is too long.</summary>
    public void Choose(long production, string? typed, string who)
    {
        var kept = string.Join(
            ", ",
            (typed ?? "").Split(Between).Select(TypedText.OneLine).Where(t => t.Length > 0).Distinct(StringComparer.Ordinal)
        );
        if (kept.Length > Most)
        {
            throw new EditRefusedException($"Names and terms are at most {Most} letters. Keep those that are misheard most.");
        }
        if (kept != Typed(production))
        {
            productions.Choose(
                production,
                who,
                kept.Length == 0 ? "no names and terms for the recogniser" : $"names and terms for the recogniser: {kept}",
                (Setting, kept)
            );
        }
    }
}
