namespace EmberLane.Web.Rooms;

/// <summary>What is said when a change was taken back or made again.</summary>
internal static class StepWords
{
    /// <summary><paramref name="what"/> is the change, or null when there was none.</summary>
    public static string Of(string? what, bool redo) =>
        what is null
            ? redo
                ? "There is nothing to bring again."
                : "There is nothing to take back."
            : (redo ? "Made again: " : "Taken back: ") + what + ".";
}
