namespace EmberLane.Core.Bites;

/// <summary>How long a person speaks of a theme, in all talk and in what is kept.</summary>
public sealed record OnTheme(string Theme, string Name, MediaTime Spoken, MediaTime Kept);

/// <summary>How long a person speaks, in all talk and in what is kept.</summary>
public sealed record OfPerson(string Name, MediaTime Spoken, MediaTime Kept);

/// <summary>
/// Something that is missing, in words, and the question whose hits would fill it; where only a person is told it has no words, and all
/// that this person says may.
/// </summary>
public sealed record ThinPlace(string Says, string Question)
{
    /// <summary>The person of whom anything would do; null where the question has words.</summary>
    public string? Person { get; init; }
}

/// <summary>What is missing among the bites.</summary>
public static class ThinPlaces
{
    /// <summary>Who speaks of a theme for less than this does not speak of it.</summary>
    private static readonly MediaTime Little = MediaTime.FromMilliseconds(3_000);

    /// <summary>Who speaks for less than this has nothing to keep.</summary>
    private static readonly MediaTime Brief = MediaTime.FromMilliseconds(20_000);

    /// <summary>Of one in so many seconds that somebody speaks something should be kept.</summary>
    private const int KeptOf = 20;

    /// <summary>
    /// Themes that nobody but one speaks of; people who speak of a theme and of whom nothing is kept on it; themes without anything kept;
    /// people of whom little is kept; themes without a bite that is more than spare, where any bite has a grade
    /// (<paramref name="bestGrades"/>: the best of each theme). In the order of the themes, then of the people.
    /// </summary>
    public static IReadOnlyList<ThinPlace> Of(
        IReadOnlyList<OnTheme> themes,
        IReadOnlyList<OfPerson> people,
        IReadOnlyDictionary<string, int> bestGrades
    )
    {
        var thin = new List<ThinPlace>();
        // Whose words nobody keeps anything of asks the questions, most likely; that is told once.
        var kept = people.Where(p => p.Kept > MediaTime.Zero).Select(p => p.Name).ToHashSet();
        var graded = bestGrades.Values.Any(g => g > 0);
        foreach (var theme in themes.GroupBy(t => t.Theme))
        {
            var speaking = theme
                .Where(t => kept.Contains(t.Name) && (t.Spoken >= Little || t.Kept > MediaTime.Zero))
                .OrderByDescending(t => t.Spoken.Units)
                .ToList();
            var words = WordsOf(theme.Key);
            if (speaking is [var alone])
            {
                thin.Add(new ThinPlace($"Nobody but {alone.Name} speaks of “{theme.Key}”.", words));
            }
            thin.AddRange(
                speaking
                    .Where(t => t.Kept == MediaTime.Zero && speaking.Count > 1)
                    .Select(t => new ThinPlace(
                        $"{t.Name} speaks of “{theme.Key}” for {t.Spoken}; none of it is kept.",
                        $"{words} by:\"{t.Name}\" kept:no"
                    ))
            );
            if (graded && bestGrades.GetValueOrDefault(theme.Key) < BiteGrade.Good)
            {
                thin.Add(new ThinPlace($"“{theme.Key}” has no bite that is good.", $"{words} kept:no"));
            }
        }
        thin.AddRange(
            people
                .Where(p => p.Spoken >= Brief && p.Kept.Units * KeptOf < p.Spoken.Units)
                .Select(p => new ThinPlace(
                    p.Kept == MediaTime.Zero
                        ? $"Nothing of {p.Name} is kept, of {p.Spoken} spoken."
                        : $"{p.Name} has {p.Kept} kept of {p.Spoken} spoken.",
                    $"by:\"{p.Name}\" kept:no"
                )
                {
                    Person = p.Name,
                })
        );
        return thin;
    }

    /// <summary>Words that find talk about a theme: those of its name that say something, near each other.</summary>
    public static string WordsOf(string theme)
    {
        var words = theme
            .Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .Select(w => new string([.. w.Where(c => char.IsLetterOrDigit(c) || c is '\'' or '’')]))
            .Where(w => w.Length > 0)
            .ToList();
        var telling = words.Where(w => !Tidy.CommonWords.Has(w.ToLowerInvariant())).ToList();
        return string.Join(' ', telling.Count > 0 ? telling : words);
    }
}
