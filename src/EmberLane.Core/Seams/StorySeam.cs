using EmberLane.Core.Stories;

namespace EmberLane.Core.Seams;

/// <summary>
/// One card at a seam: what it plays, its words, what it says, the file that is seen at its end, and the sound if it is known.
/// </summary>
public sealed record SeamSide(Card Card, SittingRange Plays, CardEdges Words, string Said, long? Picture, SittingSeamSound? Sound)
{
    /// <summary>The file that is seen at its begin.</summary>
    public long? FirstPicture { get; init; } = Picture;
}

/// <summary>
/// The seam between a card and the next, judged: both ends, how much the level and the quiet of the room jump, in decibels, how bad it is
/// from 0, and why, the worst first. The ids are empty where the story begins or ends.
/// </summary>
public sealed record StorySeam(
    Guid Card,
    Guid Next,
    SeamEdge? End,
    SeamEdge? Begin,
    double LevelJump,
    double ToneJump,
    int Score,
    IReadOnlyList<string> Reasons
)
{
    /// <summary>What is wrong is heard from this score on; below it is worth a look.</summary>
    public const int Bad = 40;

    /// <summary>Two cards that meet within a frame of the slowest cameras (42 ms) are no seam: the sound goes on.</summary>
    private static readonly MediaTime Touch = MediaTime.FromMilliseconds(42);

    /// <summary>An answer comes within so much (15 s) of the sitting behind its question.</summary>
    private static readonly MediaTime Answered = MediaTime.FromMilliseconds(15_000);

    /// <summary>In steps of 5 ms: how much of a card is listened to beside a seam.</summary>
    private const int Beside = 200;

    /// <summary>In steps of 5 ms: how far around a cut the quiet of the room is listened for.</summary>
    private const int Around = 1_000;

    /// <summary>In steps of 5 ms: how far a breath stands from words, and how much of one lies at each side of a cut at least.</summary>
    private const int Apart = 6,
        ShortestSide = 6;

    /// <summary>In decibels: a jump that is heard.</summary>
    private const double Heard = 6;

    /// <summary>A breath stands so many decibels below the talk at least, and a little above the quiet.</summary>
    private const double BelowTalk = 12,
        AboveQuiet = 1.5;

    /// <summary>Whether the second card goes on where the first ends, so that nothing is cut.</summary>
    public static bool GoesOn(long sitting, SittingRange one, long nextSitting, SittingRange next) =>
        sitting == nextSitting && next.In - one.Out is var apart && apart <= Touch && apart >= MediaTime.Zero - Touch;

    /// <summary>
    /// Judges the seam between two cards; null where the story begins or ends. <paramref name="areTogether"/> tells whether they are played
    /// one right behind the other, or something without talk lies between them.
    /// </summary>
    public static StorySeam Of(SeamSide? one, SeamSide? next, bool areTogether)
    {
        var isCut = one is not null && next is not null && areTogether;
        if (isCut && GoesOn(one!.Card.SittingId, one.Plays, next!.Card.SittingId, next.Plays))
        {
            return new StorySeam(one!.Card.Id, next!.Card.Id, null, null, 0, 0, 0, []);
        }
        var reasons = new List<(int Worth, string Why)>();
        var end = one?.Sound is { } sound ? CardEnds.Of(sound, one.Plays, one.Words).End : null;
        var begin = next?.Sound is { } other ? CardEnds.Of(other, next.Plays, next.Words).Begin : null;
        if (end is not null)
        {
            Tell(
                end,
                IsBreath(one!.Sound!, one.Plays.Out, one.Words.Last, one.Words.Behind),
                $"“{LastWord(one.Said)}” loses its tail",
                $"the word behind “{LastWord(one.Said)}” is heard",
                $"behind “{LastWord(one.Said)}”"
            );
        }
        if (begin is not null)
        {
            Tell(
                begin,
                IsBreath(next!.Sound!, next.Plays.In, next.Words.Before, next.Words.First),
                $"“{FirstWord(next.Said)}” loses its head",
                $"the word before “{FirstWord(next.Said)}” is heard",
                $"before “{FirstWord(next.Said)}”"
            );
        }
        double level = isCut ? Jump(one!, next!, 85) : 0,
            tone = isCut ? Math.Abs(Room(one!.Sound, one.Plays.Out) - Room(next!.Sound, next.Plays.In)) : 0;
        if (level >= Heard)
        {
            reasons.Add(((int)Math.Min(30, 2 * level), FormattableString.Invariant($"the level jumps by {level:0} dB")));
        }
        if (tone >= Heard)
        {
            reasons.Add(((int)Math.Min(20, tone), FormattableString.Invariant($"the quiet of the room jumps by {tone:0} dB")));
        }
        if (isCut && one!.Picture is { } angle && angle == next!.FirstPicture && one.Card.SittingId == next.Card.SittingId)
        {
            reasons.Add((12, "the same angle on both sides"));
        }
        if (one is not null && IsQuestion(one.Said) && !(next is not null && IsAnswer(one, next)))
        {
            reasons.Add((8, "a question, and what follows is not its answer"));
        }
        return new StorySeam(
            one?.Card.Id ?? Guid.Empty,
            next?.Card.Id ?? Guid.Empty,
            end,
            begin,
            level,
            tone,
            reasons.Sum(r => r.Worth),
            [.. reasons.OrderByDescending(r => r.Worth).Select(r => r.Why)]
        );

        void Tell(SeamEdge edge, bool isBreath, string clips, string leaks, string where)
        {
            if (isBreath)
            {
                reasons.Add((10, $"a breath is cut in half {where}"));
                return;
            }
            if (edge.Before.Clips)
            {
                reasons.Add((50, clips));
            }
            if (edge.Before.Leaks)
            {
                reasons.Add((40, leaks));
            }
            if (!edge.HasRoom)
            {
                reasons.Add((20, $"no room {where}: the words run into each other"));
            }
        }
    }

    private static bool IsQuestion(string said) => said.TrimEnd('"', '”', '’', ' ').EndsWith('?');

    private static bool IsAnswer(SeamSide one, SeamSide next) =>
        one.Card.SittingId == next.Card.SittingId && next.Plays.In >= one.Plays.Out && next.Plays.In - one.Plays.Out <= Answered;

    // Something soft between two words that touches neither of them: the cut lies in it.
    private static bool IsBreath(SittingSeamSound sound, SittingTime cut, SittingRange? before, SittingRange? behind)
    {
        if (cut < before?.Out || cut > behind?.In)
        {
            return false;
        }
        int at = SeamSound.StepAt(sound.In(cut)),
            first = before is { } word ? SeamSound.StepAt(sound.In(word.Out)) + Apart : at - Beside,
            end = behind is { } next ? SeamSound.StepAt(sound.In(next.In)) - Apart : at + Beside;
        double quiet = SeamRoom.QuietBelow(sound.Sound, sound.In(cut)) + AboveQuiet,
            talk = sound.Sound.Share(at - Beside, at + Beside, 90) - BelowTalk;
        int from = at,
            to = at;
        while (from >= first && IsSoft(from - 1))
        {
            from--;
        }
        while (to <= end && IsSoft(to))
        {
            to++;
        }
        return at - from >= ShortestSide && to - at >= ShortestSide && from > first && to < end;

        bool IsSoft(int step) => sound.Sound.At(step) > quiet && sound.Sound.At(step) < talk;
    }

    // How loud the room is around a moment when nobody speaks.
    private static double Room(SittingSeamSound? sound, SittingTime at) =>
        sound is null ? 0
        : SeamSound.StepAt(sound.In(at)) is var step ? sound.Sound.Share(step - Around, step + Around, 5)
        : 0;

    // By how much the talk is louder or softer behind a seam than before it.
    private static double Jump(SeamSide one, SeamSide next, int percent)
    {
        if (one.Sound is not { } sound || next.Sound is not { } other)
        {
            return 0;
        }
        int end = SeamSound.StepAt(sound.In(one.Plays.Out)),
            begin = SeamSound.StepAt(other.In(next.Plays.In));
        return Math.Abs(
            sound.Sound.Share(Math.Max(SeamSound.StepAt(sound.In(one.Plays.In)), end - Beside), end, percent)
                - other.Sound.Share(begin, Math.Min(SeamSound.StepAt(other.In(next.Plays.Out)), begin + Beside), percent)
        );
    }

    private static string LastWord(string said) =>
        said.TrimEnd() is var text ? text[(text.LastIndexOf(' ') + 1)..].Trim('.', ',', '?') : "";

    private static string FirstWord(string said) => said.Split(' ', 2)[0].Trim('.', ',', '?');
}
