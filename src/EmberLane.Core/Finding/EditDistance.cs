namespace EmberLane.Core.Finding;

/// <summary>
/// The least changes that make one sequence of the other (Levenshtein, 1966), and of what kind they are: the fewest, or those that weigh
/// least where a substitution is given another weight than the others.
/// </summary>
public readonly record struct EditDistance(int Substituted, int Deleted, int Inserted)
{
    /// <summary>Changes of all kinds.</summary>
    public int Changes => Substituted + Deleted + Inserted;

    /// <summary>
    /// From <paramref name="one"/> to <paramref name="other"/>; a substitution weighs <paramref name="substitution"/>, what is deleted or
    /// inserted <paramref name="rest"/>. Cost is the product of the lengths, memory one row.
    /// </summary>
    public static EditDistance Between<T>(ReadOnlySpan<T> one, ReadOnlySpan<T> other, int substitution = 1, int rest = 1)
        where T : IEquatable<T>
    {
        // A cell holds the weight of the changes and, below it, how many are substitutions: with the lengths that tells the rest.
        var row = new long[other.Length + 1];
        for (var j = 0; j <= other.Length; j++)
        {
            row[j] = j * rest * Change;
        }
        foreach (var item in one)
        {
            var diagonal = row[0];
            row[0] += rest * Change;
            for (var j = 1; j <= other.Length; j++)
            {
                var best = item.Equals(other[j - 1]) ? diagonal : diagonal + (substitution * Change) + 1;
                var aside = Math.Min(row[j], row[j - 1]) + (rest * Change);
                diagonal = row[j];
                row[j] = aside / Change < best / Change ? aside : best;
            }
        }
        var (weight, substituted) = ((int)(row[^1] / Change), (int)(row[^1] % Change));
        var (others, longer) = ((weight - (substituted * substitution)) / rest, other.Length - one.Length);
        return new EditDistance(substituted, (others - longer) / 2, (others + longer) / 2);
    }

    // More than any number of substitutions; a power of two, so that dividing is a shift.
    private const long Change = 1L << 32;
}
