using EmberLane.Core.People;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;

namespace EmberLane.Web.Pages.Shown;

/// <summary>What a link that shows a whole production leads to: its stories and its sittings that can be read.</summary>
[ByLink]
public sealed class IndexModel(Footage footage, Desk desk, Store.Stories stories) : RoomModel(footage, desk)
{
    private readonly Footage footage = footage;

    public override string Room => "Shown";

    /// <summary>Its stories that have cards, the newest change first.</summary>
    public IReadOnlyList<StoryHead> Stories { get; private set; } = [];

    /// <summary>Its sittings that can be read.</summary>
    public IReadOnlyList<Sitting> Sittings { get; private set; } = [];

    /// <summary>The link by which they came; null for who works in the production.</summary>
    public StoredAdmission? Link => MayRead(Production.Id) ? null : Visitor.Of(HttpContext)?.Link;

    public void OnGet()
    {
        Stories = [.. stories.Of(Production.Id).Where(s => s is { IsAway: false, Cards: > 0 }).OrderByDescending(s => s.ChangedAt)];
        Sittings = [.. footage.Sittings(Production.Id).Where(s => s.TranscriptId is not null)];
    }

    /// <summary>Where one of them is shown.</summary>
    public string AddressOf(LinkScope one) => ShownAddress.Of(Production.Id, one);
}
