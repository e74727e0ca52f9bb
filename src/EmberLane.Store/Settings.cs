namespace EmberLane.Store;

/// <summary>Choices that hold for the whole installation.</summary>
public sealed class Settings(Database database)
{
    /// <summary>What was chosen under a key; null when nothing was.</summary>
    public string? Get(string name) =>
        database.Read(c => c.Query("SELECT value FROM setting WHERE name = $n", r => r.GetString(0), ("$n", name))).SingleOrDefault();

    /// <summary>Keeps a choice under its key.</summary>
    public void Set(string name, string value) =>
        database.Write(c => c.Execute("INSERT OR REPLACE INTO setting VALUES ($n, $v)", ("$n", name), ("$v", value)));
}
