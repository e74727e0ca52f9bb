using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>
/// The one way in which a room changes something: what does not fit is answered with its reason, what is made from the footage is looked
/// after, and those who show it are told.
/// </summary>
public sealed class RoomChanges(News news, Upkeep upkeep)
{
    /// <summary>Tells those who show such things.</summary>
    public void Tell(NewsItem item) => news.Tell(item);

    /// <summary>
    /// Makes a change of <paramref name="about"/> in a production. Returns null when it was made, or why it was not, in a sentence for the
    /// person; then nothing was changed. <paramref name="told"/> is given the news, to be told once the answer is on its way; null tells at
    /// once.
    /// </summary>
    public string? Make(long productionId, NewsOf about, string who, Action change, Action<NewsItem>? told = null)
    {
        try
        {
            change();
        }
        catch (Exception refused) when (refused is EditRefusedException or ConflictException)
        {
            return refused.Message;
        }
        if (about is NewsOf.Gather)
        {
            upkeep.Ask(productionId);
        }
        (told ?? news.Tell)(new NewsItem(about, productionId, who));
        return null;
    }
}
