namespace EmberLane.Web.Rooms;

/// <summary>A page on which people talk of what it shows. It has the handlers Answer, Settle and Away, each by a talk's number.</summary>
public interface ITalkPage
{
    /// <summary>Who looks at it.</summary>
    string Who { get; }

    /// <summary>Whether who looks may say something.</summary>
    bool MayComment { get; }

    /// <summary>Who can be mentioned.</summary>
    IReadOnlyCollection<string> Names { get; }

    /// <summary>This page, with what asks for a handler behind it.</summary>
    string Address(string asked);

    /// <summary>A moment as it is told.</summary>
    string Moment(DateTimeOffset at);
}
