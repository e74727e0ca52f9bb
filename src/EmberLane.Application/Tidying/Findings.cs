using EmberLane.Core.Marks;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;
using EmberLane.Store;

namespace EmberLane.Application.Tidying;

/// <summary>What was found in a sitting's text that nobody has decided about yet; the sound is null where none is at hand.</summary>
public sealed record SittingFindings(
    TextTalk Text,
    TalkSound? Sound,
    IReadOnlyList<WeighedHesitation> Hesitations,
    IReadOnlyList<FilledSound> Sounds,
    IReadOnlyList<Retake> Retakes,
    IReadOnlyList<SaidCue> Cues
)
{
    /// <summary>What would go of the pauses by a wish, without those that are set aside already or stay as they are.</summary>
    public IReadOnlyList<PlannedCut> Pauses(PauseWish wish)
    {
        var decided = AsideStretches.Union([
            .. Text.Text.Layers.Marks.Values.Where(m => m.Kind == MarkKind.Pause || m.Kind == MarkKind.LeftPause).Select(m => m.Range),
        ]);
        var aside = AsideStretches.Of(Text.Text);
        int inDecided = 0,
            inAside = 0;
        return PausePlan.Of(
            Text.Talk,
            Sound,
            wish,
            place => Text.Text.NameOf(Text.Talk.Words[place].Voice),
            // A word that is aside beside a pause may reach into it a little, by the sound.
            pause =>
                Stretches.Covered(decided, pause, ref inDecided) > MediaTime.Zero
                || Stretches.Covered(aside, pause, ref inAside) * 2 > pause.Length
        );
    }
}

/// <summary>An attempt in one of several sittings; its places are words of that one's talk.</summary>
public sealed record AttemptThere(Sitting Sitting, TextTalk Text, Attempt Attempt);

/// <summary>Attempts at one thing in two sittings or more; which is proposed, and why.</summary>
public sealed record RetakeAcross(IReadOnlyList<AttemptThere> Attempts, int Best, string Reason);

/// <summary>
/// Finds what a sitting surely does not need. What its words give is kept for the texts that are looked at, until a word changes.
/// </summary>
public sealed class Findings(Footage footage, Store.Transcripts transcripts, TalkSounds sounds, TidyWishes wishes)
{
    private const int Kept = 4;

    /// <summary>More words than this, some sixteen hours, are not searched across sittings.</summary>
    private const int MostWords = 150_000;

    private sealed record Known(
        long TextId,
        TextTalk Text,
        TalkSound? Sound,
        string Wishes,
        IReadOnlyList<WeighedHesitation> Hesitations,
        IReadOnlyList<FilledSound> Sounds,
        IReadOnlyList<Retake> Retakes,
        IReadOnlyList<SaidCue> Cues
    );

    private readonly Lock gate = new();
    private readonly List<Known> known = [];

    /// <summary>Of the text that a sitting is read by. Throws <see cref="InvalidOperationException"/> when there is none.</summary>
    public SittingFindings Of(Sitting sitting)
    {
        var id = sitting.TranscriptId ?? throw new InvalidOperationException("The sitting has no text.");
        var text = transcripts.Get(id);
        var sound = sounds.Of(sitting);
        lock (gate)
        {
            var found = Find(sitting, id, text, sound);
            var now = found.Text.Under(text)!;
            return new SittingFindings(
                now,
                sound,
                [
                    .. found.Hesitations.Where(h =>
                        IsOpen(now, h.Hesitation.First, h.Hesitation.Last, MarkLayer.Hesitations, MarkKind.LeftHesitation)
                    ),
                ],
                OpenSounds(now, found.Sounds),
                [.. found.Retakes.Where(r => IsOpen(now, r))],
                [.. found.Cues.Where(c => IsOpen(now, c.First, c.Last, MarkLayer.OffTheRecord, MarkKind.LeftCue))]
            );
        }
    }

    /// <summary>
    /// What people of a production say again in another of its sittings, nobody having decided about it. Throws
    /// <see cref="Core.EditRefusedException"/> where the texts are too long to be searched together.
    /// </summary>
    public IReadOnlyList<RetakeAcross> Across(long productionId)
    {
        var sittings = footage.Sittings(productionId).Where(s => s.TranscriptId is not null).ToList();
        var texts = sittings.Select(s => new TextTalk(transcripts.Get(s.TranscriptId!.Value))).ToList();
        if (texts.Sum(t => t.Talk.Words.Count) > MostWords)
        {
            throw new Core.EditRefusedException(
                FormattableString.Invariant(
                    $"The sittings have more than {MostWords} words together, which are too many to be searched at once."
                )
            );
        }
        var joint = new JointTalk(texts);
        return
        [
            .. Retakes
                .Of(joint.Talk)
                .Select(r => new RetakeAcross([.. r.Attempts.Select(There)], r.Best, r.Reason))
                .Where(r => r.Attempts.Select(a => a.Sitting.Id).Distinct().Count() > 1)
                .Where(r =>
                    r.Attempts.Count(a => IsOpen(a.Text, a.Attempt.First, a.Attempt.Last, MarkLayer.Retakes, MarkKind.LeftTry)) >= 2
                ),
        ];

        AttemptThere There(Attempt attempt)
        {
            var (text, first) = joint.Of(attempt.First);
            return new AttemptThere(sittings[text], texts[text], new Attempt(first, joint.Of(attempt.Last).Place, attempt.Whole));
        }
    }

    private Known Find(Sitting sitting, long id, Transcript text, TalkSound? sound)
    {
        var phrases = wishes.Phrases(sitting.ProductionId);
        var cues = wishes.Cues(sitting.ProductionId);
        var asked = string.Join('\n', [.. phrases, "", .. cues.Select(c => $"{c.Phrase} {c.Use}")]);
        if (known.FindIndex(k => k.TextId == id) is >= 0 and var at)
        {
            var before = known[at];
            known.RemoveAt(at);
            if (before.Text.Under(text) is not null && ReferenceEquals(before.Sound, sound) && before.Wishes == asked)
            {
                known.Add(before);
                return before;
            }
        }
        var talk = new TextTalk(text);
        var found = TidyFindings.Of(
            talk.Talk,
            sound,
            MediaTime.FromMilliseconds(PauseWish.Longest),
            HesitationWords.Of(transcripts.Head(id)!.Language, phrases),
            cues,
            []
        );
        var made = new Known(id, talk, sound, asked, found.Hesitations, found.Sounds, found.Retakes, found.Cues);
        known.Add(made);
        if (known.Count > Kept)
        {
            known.RemoveAt(0);
        }
        return made;
    }

    // Neither decided about, nor aside already for whatever reason.
    private static bool IsOpen(TextTalk text, int first, int last, MarkLayer layer, MarkKind spared) =>
        !text.IsSettled(first, last, layer, spared) && !text.Between(first, last).All(text.Text.IsAside);

    // As pauses: nobody has said anything about it, and it is not mostly aside already.
    private static List<FilledSound> OpenSounds(TextTalk text, IReadOnlyList<FilledSound> sounds)
    {
        var settled = AsideStretches.Union([
            .. AsideStretches.Of(text.Text),
            .. text
                .Text.Layers.Marks.Values.Where(m => m.Kind == MarkKind.LeftSound || m.Kind == MarkKind.FilledSound)
                .Select(m => m.Range),
        ]);
        var next = 0;
        return [.. sounds.Where(s => Stretches.Covered(settled, s.Stretch, ref next) * 2 <= s.Stretch.Length)];
    }

    // At least two attempts are in use, and not all were said to be no attempts.
    private static bool IsOpen(TextTalk text, Retake retake)
    {
        var used = retake.Attempts.Count(a => IsOpen(text, a.First, a.Last, MarkLayer.Retakes, MarkKind.LeftTry));
        return used >= 2;
    }
}
