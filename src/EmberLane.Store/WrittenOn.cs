using EmberLane.Core.Media;

namespace EmberLane.Store;

/// <summary>What stands on a file, as one text to be looked through and shown.</summary>
internal static class WrittenOn
{
    /// <summary>Its labels and what is said at its start, with dots between.</summary>
    public static string Of(Labels labels, string said) =>
        string.Join(
            " · ",
            Labels
                .Names.Select(n =>
                    labels.Of(n) is { Length: > 0 } value
                        ? n is "description" or "tags" or "note" or "day"
                            ? value
                            : $"{n} {value}"
                        : ""
                )
                .Append(said.Length > 0 ? $"“{said}”" : "")
                .Where(w => w.Length > 0)
        );
}
