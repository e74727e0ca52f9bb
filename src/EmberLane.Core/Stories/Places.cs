using System.Collections.Immutable;

namespace EmberLane.Core.Stories;

/// <summary>Places in a story, and the names of what an edit touches of a piece.</summary>
internal static class Places
{
    /// <summary>Where a piece lies.</summary>
    public static string PlaceOf(Guid piece) => $"place {piece}";

    /// <summary>What a space, a title, a narration, a heading or plain media is.</summary>
    public static string WhatOf(Guid piece) => $"what {piece}";

    /// <summary>Everything of a piece that an edit can touch.</summary>
    public static IEnumerable<string> All(Guid piece) =>
        [PlaceOf(piece), WhatOf(piece), $"angle {piece}", $"take {piece}", $"space {piece}", $"range {piece}", $"over {piece}"];

    /// <summary>
    /// The place in a story now that lies as <paramref name="at"/> did between these pieces then: behind the nearest one before it that is
    /// still there, or before the nearest behind it, or the same number where all of them are gone.
    /// </summary>
    public static int Same(ImmutableList<Piece> then, Story now, int at)
    {
        if (ReferenceEquals(then, now.Pieces))
        {
            return at;
        }
        for (var i = Math.Min(at, then.Count) - 1; i >= 0; i--)
        {
            if (now.IndexOf(then[i].Id) is >= 0 and var before)
            {
                return before + 1;
            }
        }
        for (var i = Math.Max(0, at); i < then.Count; i++)
        {
            if (now.IndexOf(then[i].Id) is >= 0 and var behind)
            {
                return behind;
            }
        }
        return Math.Min(at, now.Pieces.Count);
    }
}
