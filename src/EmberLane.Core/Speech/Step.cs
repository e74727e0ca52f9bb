namespace EmberLane.Core.Speech;

/// <summary>A step of an analysis of sound: 10 ms, counted from the sound's start. Two steps differ by a count of steps.</summary>
public readonly record struct Step(int Value) : IComparable<Step>
{
    /// <summary>How many steps a second has.</summary>
    public const int PerSecond = 100;

    /// <summary>The step that a moment lies in; a moment before the start lies in the first.</summary>
    public static Step At(MediaTime fromStart) => new((int)Math.Max(0, fromStart.ToSamplesFloor(PerSecond)));

    /// <summary>From the sound's start to its begin.</summary>
    public MediaTime FromStart => MediaTime.FromSamples(Value, PerSecond);

    /// <inheritdoc/>
    public int CompareTo(Step other) => Value.CompareTo(other.Value);

    /// <summary>So many steps later.</summary>
    public static Step operator +(Step step, int steps) => new(step.Value + steps);

    /// <summary>So many steps earlier.</summary>
    public static Step operator -(Step step, int steps) => new(step.Value - steps);

    /// <summary>How many steps one is later than the other.</summary>
    public static int operator -(Step one, Step other) => one.Value - other.Value;

    /// <summary>Whether one is earlier than the other.</summary>
    public static bool operator <(Step one, Step other) => one.Value < other.Value;

    /// <summary>Whether one is later than the other.</summary>
    public static bool operator >(Step one, Step other) => one.Value > other.Value;

    /// <summary>Whether one is earlier than the other or the same.</summary>
    public static bool operator <=(Step one, Step other) => one.Value <= other.Value;

    /// <summary>Whether one is later than the other or the same.</summary>
    public static bool operator >=(Step one, Step other) => one.Value >= other.Value;
}

/// <summary>A stretch of sound from one step to before another.</summary>
public readonly record struct StepRange(Step First, Step End)
{
    /// <summary>From one place in a row of steps to before another.</summary>
    public static StepRange Of(int first, int end) => new(new Step(first), new Step(end));

    /// <summary>Its part before a sound of so many steps ends.</summary>
    public StepRange Until(int steps) => new(First, End.Value <= steps ? End : new Step(steps));

    /// <summary>How many steps it has.</summary>
    public int Count => End - First;

    /// <summary>How long it lasts.</summary>
    public MediaTime Length => MediaTime.FromSamples(Count, Step.PerSecond);

    /// <summary>Its part of a row of steps.</summary>
    public Range Within => First.Value..End.Value;

    /// <summary>Its steps, in order, as places in a row.</summary>
    public IEnumerable<int> Steps => Enumerable.Range(First.Value, Math.Max(0, Count));
}
