namespace EmberLane.Core.Bites;

/// <summary>How good a bite is, in three steps; 0 where nobody has said.</summary>
public static class BiteGrade
{
    /// <summary>The steps.</summary>
    public const int Spare = 1,
        Good = 2,
        Best = 3;

    /// <summary>A grade in a word.</summary>
    public static string Word(int grade) =>
        grade switch
        {
            Best => "must have",
            Good => "good",
            Spare => "spare",
            _ => "no grade",
        };
}
