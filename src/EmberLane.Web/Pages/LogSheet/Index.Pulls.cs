using EmberLane.Core.Bites;
using EmberLane.Core.Parts;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.LogSheet;

/// <summary>A pull as it is offered: its words, how long it lasts, and whether some of it is kept already.</summary>
public sealed record OfferedPull(Pull Pull, MediaTime Length, string Who, string Theme, bool IsKept);

/// <content>Pulls of a wanted length.</content>
public sealed partial class IndexModel
{
    private const int MostPulls = 12;

    /// <summary><c>short</c>, <c>middle</c> or <c>long</c>.</summary>
    [BindProperty(SupportsGet = true, Name = "length")]
    public string? Wanted { get; set; }

    public static IReadOnlyList<(string Key, string Says)> PullLengths { get; } =
    [("short", "under 30 s"), ("middle", "30 to 60 s"), ("long", "60 to 90 s")];

    public string WantedKey => PullLengths.Any(l => l.Key == Wanted) ? Wanted! : "middle";

    /// <summary>The best first.</summary>
    public IReadOnlyList<OfferedPull> Offered { get; private set; } = [];

    /// <summary>What keeps a pull as a bite, under the name of the part that it lies in.</summary>
    public string KeepOf(OfferedPull offered) =>
        FormattableString.Invariant($"?handler=Keep&first={NumberOf(offered.Pull.First)}&last={NumberOf(offered.Pull.Last)}")
        + $"&length={WantedKey}&theme={Uri.EscapeDataString(offered.Theme)}";

    private void LoadPulls(List<Bite> kept)
    {
        var length = WantedKey switch
        {
            "short" => PullLength.Short,
            "long" => PullLength.Long,
            _ => PullLength.Middle,
        };
        Offered =
        [
            .. Pulls
                .Of(Talk, Sheet.Units, Sheet.Begins, new Facts(Found.Text, Found.Hesitations), length, MostPulls)
                .Select(p => new OfferedPull(
                    p,
                    Talk.Words[p.Last].Out - Talk.Words[p.First].In,
                    Text.NameOf(Talk.Words[p.First].Voice),
                    Lines.LastOrDefault(l => l.First <= Found.Text.FirstOf(p.First) && l.Mark is not null)?.Name ?? "",
                    kept.Any(b => b.Range.In.FromZero < Talk.Words[p.Last].Out && Talk.Words[p.First].In < b.Range.Out.FromZero)
                )),
        ];
    }

    private sealed class Facts(TextTalk text, IReadOnlyList<WeighedHesitation> hesitations) : IPullFacts
    {
        private readonly HashSet<int> hesitating =
        [
            .. hesitations.SelectMany(h => Enumerable.Range(h.Hesitation.First, h.Hesitation.Last - h.Hesitation.First + 1)),
        ];

        public bool IsDoubtful(int word) => text.Between(word, word).Any(text.Text.IsDoubtful);

        public bool IsAside(int word) => text.Between(word, word).All(text.Text.IsAside);

        public bool IsHesitation(int word) => hesitating.Contains(word);
    }
}
