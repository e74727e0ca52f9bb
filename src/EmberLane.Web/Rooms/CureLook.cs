using EmberLane.Core.Handoff;

namespace EmberLane.Web.Rooms;

/// <summary>How a cure is offered: in words, and where it is found, seen from Hand-off; null for one that is done at a press.</summary>
public sealed record CureLook(string Says, string? Address)
{
    /// <summary>Of a cure; null where there is none.</summary>
    public static CureLook? Of(Cure cure) =>
        cure switch
        {
            Cure.MendSeams => new("Move the cuts into the silence", null),
            Cure.TakeOutEmpty => new("Take the cards out of which nothing is left", null),
            Cure.TakeOutAside => new("Take the cards out of bites that were set aside", null),
            Cure.Captions => new("Look at the captions", "handoff/captions?look=true"),
            Cure.Files => new("Find the files", "gather/files"),
            Cure.Gather => new("Place it in Gather", "gather"),
            Cure.Story => new("Open the story", "story"),
            Cure.OffTheRecord => new("See what is off the record", "off-record"),
            _ => null,
        };
}
