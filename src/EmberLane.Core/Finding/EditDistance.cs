namespace EmberLane.Core.Finding;

/// <summary>The least number of changes that make one sequence of the other (Levenshtein, 1966), and of what kind they are.</summary>
public readonly record struct EditDistance(int Substituted, int Deleted, int Inserted)
{
    /// <summary>Changes of all kinds.</summary>
    public int Changes => Substituted + Deleted + Inserted;

    /// <summary>From <paramref name="one"/> to <paramref name="other"/>. Cost is the product of the lengths, memory one row.</summary>
    public static EditDistance Between<T>(ReadOnlySpan<T> one, ReadOnlySpan<T> other)
        where T : IEquatable<T>
    {
        // A cell holds the changes and, below them, how many are substitutions: with the lengths that tells the rest.
        var row = new long[other.Length + 1];
        for (var j = 0; j <= other.Length; j++)
        {
            row[j] = j * Change;
        }
        foreach (var item in one)
        {
            var diagonal = row[0];
            row[0] += Change;
            for (var j = 1; j <= other.Length; j++)
            {
                var best = item.Equals(other[j - 1]) ? diagonal : diagonal + Change + 1;
                var aside = Math.Min(row[j], row[j - 1]) + Change;
                diagonal = row[j];
                row[j] = aside / Change < best / Change ? aside : best;
            }
        }
        var (changes, substituted) = ((int)(row[^1] / Change), (int)(row[^1] % Change));
        var (rest, longer) = (changes - substituted, other.Length - one.Length);
        return new EditDistance(substituted, (rest - longer) / 2, (rest + longer) / 2);
    }

    // More than any number of substitutions; a power of two, so that dividing is a shift.
    private const long Change = 1L << 32;
}
