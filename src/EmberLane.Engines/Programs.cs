namespace EmberLane.Engines;

/// <summary>Finds programs as the system would.</summary>
public static class Programs
{
    /// <summary>The full path of a program, by PATH unless it has a folder; null when there is none.</summary>
    public static string? Find(string program) =>
        program.Contains('/', StringComparison.Ordinal)
            ? (File.Exists(program) ? program : null)
            : (Environment.GetEnvironmentVariable("PATH") ?? "")
                .Split(':', StringSplitOptions.RemoveEmptyEntries)
                .Select(folder => Path.Combine(folder, program))
                .FirstOrDefault(File.Exists);
}
