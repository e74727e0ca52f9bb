using EmberLane.Core.Speech;

namespace EmberLane.Core.Tidy;

/// <summary>
/// The sound of a talk as tidying listens to it: per step of 10 ms its energy, how likely somebody speaks, and how steady it sounds
/// (<see cref="SteadyVoice"/>), from a moment on.
/// </summary>
public sealed record TalkSound(float[] Energy, float[] Chances, float[] Steady, MediaTime From)
{
    /// <summary>Stretches without speech this short are left to the words.</summary>
    private const int Least = 10;

    private RoomQuiet? room;

    /// <summary>How quiet the room is, told once.</summary>
    internal RoomQuiet Room => room ??= new RoomQuiet(this);

    /// <summary>Stretches without speech.</summary>
    public IReadOnlyList<StepRange> Quiet { get; } = PauseFinder.Pauses(Chances, Energy, Least);
}

/// <summary>A hesitation, and whether taking it out would clip a neighbour.</summary>
public sealed record WeighedHesitation(Hesitation Hesitation, bool Clips);

/// <summary>
/// What a talk surely does not need, and what was said of it: all that tidying finds. Lists are in order of their places.
/// </summary>
public sealed record TidyFindings(
    IReadOnlyList<TalkPause> Pauses,
    IReadOnlyList<WeighedHesitation> Hesitations,
    IReadOnlyList<FilledSound> Sounds,
    IReadOnlyList<Retake> Retakes,
    IReadOnlyList<SaidCue> Cues,
    IReadOnlyList<MatchedLine> Script
)
{
    /// <summary>
    /// Finds it in a talk, with its sound where that is at hand; pauses of at least <paramref name="pause"/>; takes of a script, which may
    /// be empty.
    /// </summary>
    public static TidyFindings Of(
        Talk talk,
        TalkSound? sound,
        MediaTime pause,
        HesitationWords hesitations,
        IReadOnlyList<SpokenCue> cues,
        IReadOnlyList<ScriptLine> script
    ) =>
        new(
            sound is null ? TalkPauses.Of(talk, pause) : TalkPauses.Of(talk, sound.Quiet, sound.Chances, sound.From, pause),
            [
                .. Tidy
                    .Hesitations.Of(talk, hesitations)
                    .Select(h => new WeighedHesitation(
                        h,
                        sound is null
                            ? ClippedEdges.Of(talk, h.First, h.Last)
                            : ClippedEdges.Of(talk, h.First, h.Last, sound.Energy, sound.From)
                    )),
            ],
            sound is null ? [] : FilledSounds.Of(talk, sound.Chances, sound.Steady, sound.From),
            Tidy.Retakes.Of(talk),
            SpokenCues.Of(talk, cues),
            script.Count == 0 ? [] : ScriptTakes.Of(talk, script)
        );
}
