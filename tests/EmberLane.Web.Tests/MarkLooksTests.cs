using EmberLane.Core.Marks;
using EmberLane.Web.Rooms;

namespace EmberLane.Web.Tests;

/// <summary>Every kind of mark has its look on the page.</summary>
public sealed class MarkLooksTests
{
    [Fact]
    public void A_flag_has_a_glyph_and_what_folds_says_so_for_every_kind()
    {
        Assert.All(MarkKind.With(MarkUse.Flags), k => Assert.StartsWith("<svg", MarkLooks.Of(k).Glyph, StringComparison.Ordinal));
        Assert.All(MarkKind.With(MarkUse.SetsAside), k => Assert.NotEmpty(MarkLooks.Of(k).Fold));
        Assert.All(MarkKind.All, k => Assert.NotNull(MarkLooks.Of(k)));
    }
}
