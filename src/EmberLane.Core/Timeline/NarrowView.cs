namespace EmberLane.Core.Timeline;

/// <summary>
/// What of a clip's picture is seen in a narrower shape: around which middles, in thousandths of its width (null: the whole picture, which
/// is wider than the shape), each from a frame of the clip on; at least one, the first from 0.
/// </summary>
public sealed record NarrowView(string Shape, IReadOnlyList<(long Frame, int? Centre)> Centres)
{
    /// <summary>As lists tell it, a line for each middle: the shape, by frames of the event, and hundredths of the width.</summary>
    public IEnumerable<string> Told =>
        Centres.Select(c =>
            Shape
            + (c.Frame == 0 ? "" : FormattableString.Invariant($" FROM FRAME {c.Frame}"))
            + (c.Centre is { } at ? FormattableString.Invariant($" AT {at / 10m:0.#}") : " THE WHOLE PICTURE")
        );
}
