using CsCheck;
using EmberLane.Core.Marks;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Tidy;

/// <summary>What is made of findings: cuts of pauses, attempts side by side, what a cue speaks of, what is left for the story.</summary>
public sealed class PlansTests
{
    private static MediaTime Ms(long milliseconds) => MediaTime.FromMilliseconds(milliseconds);

    private static IReadOnlyList<PlannedCut> Plan(Talk talk, PauseWish wish, TalkSound? sound = null) =>
        PausePlan.Of(talk, sound, wish, p => ((char)('A' + talk.Words[p].Voice)).ToString(), _ => false);

    [Fact]
    public void A_pause_is_shortened_to_its_middle_or_goes_but_for_what_is_kept_at_its_ends()
    {
        var pause = new TalkPause(Ms(1000), Ms(4000));
        Assert.Equal(new TalkPause(Ms(1250), Ms(3750)), PauseWish.First.CutOf(pause));
        Assert.Equal(new TalkPause(Ms(1150), Ms(3800)), (PauseWish.First with { To = null }).CutOf(pause));
        Assert.Null((PauseWish.First with { To = 2990 }).CutOf(pause));
        foreach (
            var odd in new[] { PauseWish.First with { From = 50 }, PauseWish.First with { To = 2000 }, PauseWish.First with { To = -1 } }
        )
        {
            Assert.Throws<EditRefusedException>(() => odd.Checked());
        }
        Assert.Throws<EditRefusedException>(() => (PauseWish.First with { To = null, Before = 1500, After = 600 }).Checked());
        Assert.All(PauseWish.Sets, s => Assert.Same(s.Wish, s.Wish.Checked()));
    }

    [Fact]
    public void What_a_wish_leaves_of_a_pause_is_what_it_says() =>
        Gen.Select(Gen.Long[100, 20_000], Gen.Int[0, 3000])
            .Sample(
                (length, left) =>
                {
                    var pause = new TalkPause(Ms(500), Ms(500 + length));
                    var cut = (PauseWish.First with { To = left }).CutOf(pause);
                    if (length - left < 40)
                    {
                        Assert.Null(cut);
                        return;
                    }
                    Assert.InRange(pause.Length.Units - cut!.Value.Length.Units - Ms(left).Units, -1, 1);
                    Assert.True(cut.Value.In >= pause.In && cut.Value.Out <= pause.Out);
                }
            );

    [Fact]
    public void Pauses_are_planned_per_voice_and_from_a_length_on_by_the_words_alone_where_no_sound_is_at_hand()
    {
        var talk = Telling.Of("A: one two / / / three", "B: four / / five", "A: six / seven");
        var wish = PauseWish.First with { From = 900, To = 300 };
        Assert.Equal([3000, 2000, 1000], Plan(talk, wish).Select(c => c.Pause.Length.ToMillisecondsRounded()));
        Assert.Equal([1, 3, 5], Plan(talk, wish).Select(c => c.After));
        Assert.Equal([3000, 2000], Plan(talk, wish with { From = 1500 }).Select(c => c.Pause.Length.ToMillisecondsRounded()));
        Assert.Equal([3], Plan(talk, wish with { Not = ["A"] }).Select(c => c.After));
        Assert.Empty(PausePlan.Of(talk, null, wish, _ => "", _ => true));
        Assert.All(Plan(talk, wish), c => Assert.Equal((false, 0), (c.IsNoisy, c.Roughness)));
    }

    // Talk at a loudness of 60 dB with quiet of 20 dB in between, and what is laid into the quiet.
    private static TalkSound Sound(Talk talk, params (int FromMs, int ToMs, double Decibels)[] noises)
    {
        var steps = (int)(talk.Words[^1].Out.ToMillisecondsRounded() / 10) + 100;
        float[] energy = [.. Enumerable.Repeat((float)Math.Pow(10, 2), steps)],
            chances = new float[steps];
        foreach (var word in talk.Words)
        {
            for (var i = word.In.ToMillisecondsRounded() / 10; i < word.Out.ToMillisecondsRounded() / 10; i++)
            {
                (energy[i], chances[i]) = ((float)Math.Pow(10, 6), 0.95f);
            }
        }
        foreach (var (from, to, decibels) in noises)
        {
            Array.Fill(energy, (float)Math.Pow(10, decibels / 10), from / 10, (to - from) / 10);
        }
        return new TalkSound(energy, chances, new float[chances.Length], MediaTime.Zero);
    }

    [Fact]
    public void A_pause_in_which_something_is_heard_stays_unless_it_is_asked_for_and_a_join_across_tones_is_rough()
    {
        // The pauses: 1.1–4.1, and 4.4–7.4 s.
        var talk = Telling.Of("A: one two / / / three / / / four five");
        var wish = PauseWish.First with { From = 1000 };
        Assert.Equal(2, Plan(talk, wish, Sound(talk)).Count);
        Assert.All(Plan(talk, wish, Sound(talk)), c => Assert.Equal(0, c.Roughness));
        var door = Sound(talk, (2400, 2700, 48));
        Assert.Equal([2], Plan(talk, wish, door).Select(c => c.After));
        Assert.Equal([true, false], Plan(talk, wish with { KeepNoisy = false }, door).Select(c => c.IsNoisy));
        // A breath of 30 dB below the talk is nothing to keep a pause for.
        Assert.Equal(2, Plan(talk, wish, Sound(talk, (2400, 2700, 30))).Count);
        var tone = Plan(talk, wish, Sound(talk, (4400, 5000, 34)));
        Assert.Equal(0, tone[0].Roughness);
        Assert.True(tone[1].Roughness > 90, $"{tone[1].Roughness}");
    }

    [Fact]
    public void Attempts_are_laid_beside_each_other_word_by_word()
    {
        var talk = Telling.Of("A: I put it under the bench. / I put it right under that bench then.");
        Attempt first = new(0, 5, true),
            second = new(6, 13, true);
        Assert.Equal(["I", "put", "it", "under", "bench."], Same(first, second));
        Assert.Equal(["I", "put", "it", "under", "bench"], Same(second, first));

        List<string> Same(Attempt one, Attempt other) =>
            [.. AttemptWords.Of(talk, one, other).Where(w => w.IsSame).Select(w => talk.Words[w.Place].Text)];
    }

    [Theory]
    [InlineData("use that", CueUse.KeepsBefore, "B: We waited. It was cold. A: Use that. B: Well.", "We waited. It was cold.")]
    [InlineData("use that", CueUse.KeepsBefore, "B: We waited. A: Please use that. B: Well.", "We waited.")]
    [InlineData("use that", CueUse.KeepsBefore, "A: Use that.", null)]
    [InlineData("use this", CueUse.KeepsAfter, "A: Use this. B: It was cold. We left. A: Good.", "It was cold. We left.")]
    [InlineData("use this", CueUse.KeepsAfter, "A: Use this.", null)]
    [InlineData("take one", CueUse.BeginsPart, "A: Take one. B: It was cold. A: Take two. B: Good.", "Take one. It was cold.")]
    public void A_cue_speaks_of_what_was_said_last_or_is_said_next_or_begins_a_part(string phrase, CueUse use, string said, string? of)
    {
        var lines = said.Replace(" B:", "\nB:", StringComparison.Ordinal).Replace(" A:", "\nA:", StringComparison.Ordinal).Split('\n');
        var talk = Telling.Of(lines);
        var found = SpokenCues.Of(talk, [new SpokenCue(phrase, use)]);
        var reach = CueReach.Of(talk, found[0], found);
        Assert.Equal(of, reach is var (first, last) ? talk.Said(first, last) : null);
    }

    [Fact]
    public void A_cue_reaches_back_for_half_a_minute_and_to_a_sentence()
    {
        var talk = Telling.Of(
            "B: " + string.Concat(Enumerable.Repeat("one two three four five six seven eight nine ten. ", 20)),
            "A: Use that."
        );
        var found = SpokenCues.Of(talk, SpokenCues.English);
        var (first, last) = CueReach.Of(talk, found[0], found)!.Value;
        Assert.Equal((100, 199), (first, last));
        Assert.True(SpokenCues.IsCommon("so") && SpokenCues.IsCommon("Well,") && !SpokenCues.IsCommon("opening"));
        Assert.True(
            SpokenCues.IsCue("use that") && !SpokenCues.IsCue(" … ") && !SpokenCues.IsCue(string.Join(' ', Enumerable.Repeat("a", 9)))
        );
    }

    [Fact]
    public void A_first_bite_around_a_moment_is_fitted_to_whole_sentences()
    {
        var talk = Telling.Of("A: " + string.Concat(Enumerable.Repeat("one two three four five six seven eight nine ten. ", 40)));
        var (first, last) = AroundMoment.Of(talk, Ms(60_000))!.Value;
        Assert.Equal((140, 249), (first, last));
        Assert.Null(AroundMoment.Of(talk, Ms(200_000)));
        Assert.Equal((0, 5), AroundMoment.Of(Telling.Of("A: one two / / three four", "B: five six"), Ms(2000)));
    }

    [Fact]
    public void What_is_left_goes_turn_by_turn_without_what_is_aside_or_taken_out()
    {
        var record = Telling
            .Of("A: one two three", "B: four five", "A: six seven")
            .Words.Select((w, i) => new RecordWord(new WordNumber(i), w.Text, new SittingRange(new(w.In), new(w.Out)), null, w.Voice));
        var text = new Transcript([.. record], Layers.None);
        text = text with { Layers = Marking.TurnAside(text, new(3), new(4), new Signed("Ada", null)).Apply(text).Layers };
        text = text with { Layers = new HideWord(new(0), true).Apply(text).Layers };
        // Nobody else is left between the two turns of A.
        Assert.Equal([(new TextPlace(1), new TextPlace(6))], CleanStretch.Of(text, TextPlace.First, text.Last, null));
        Assert.Empty(CleanStretch.Of(text, new(3), new(4), null));
        var all = text with { Layers = Layers.None };
        Assert.Equal(
            [(new TextPlace(0), new TextPlace(2)), (new TextPlace(5), new TextPlace(6))],
            CleanStretch.Of(all, TextPlace.First, all.Last, 0)
        );
    }

    [Fact]
    public void A_text_is_told_as_it_is_read_and_known_again_under_other_marks_but_not_with_other_words()
    {
        var record = Telling
            .Of("A: wind mill um turns")
            .Words.Select((w, i) => new RecordWord(new WordNumber(i), w.Text, new SittingRange(new(w.In), new(w.Out)), null, w.Voice));
        var text = new Transcript([.. record], Layers.None);
        text = text with { Layers = new JoinWord(new(1), true).Apply(text).Layers };
        var talk = new TextTalk(text);
        Assert.Equal(["windmill", "um", "turns"], talk.Talk.Words.Select(w => w.Text));
        Assert.Equal((new TextPlace(0), new TextPlace(1), new TextPlace(3)), (talk.FirstOf(0), talk.LastOf(0), talk.FirstOf(2)));
        var marked = text with
        {
            Layers = new PutMark(Marking.Over(text, MarkKind.Hesitation, new(2), new(2), new Signed("Ada", null))).Apply(text).Layers,
        };
        var under = talk.Under(marked)!;
        Assert.Same(talk.Talk, under.Talk);
        Assert.True(under.IsSettled(1, 1, MarkLayer.Hesitations, MarkKind.LeftHesitation));
        Assert.False(under.IsSettled(0, 1, MarkLayer.Hesitations, MarkKind.LeftHesitation));
        Assert.Null(talk.Under(text with { Layers = new Retype(new(3), "turned").Apply(text).Layers }));
    }

    [Fact]
    public void Texts_of_several_sittings_are_one_talk_in_which_a_name_is_one_voice_and_a_nameless_voice_nobody_elses()
    {
        var first = Named(Telling.Of("A: I put the letter under the bench because nobody looked there.", "B: Did you?"), "Maren");
        var second = Named(Telling.Of("A: I put the letter under the bench because nobody ever looked there."), "maren");
        var other = Named(Telling.Of("A: I put the letter under the bench because nobody ever looked there."), null);
        var joint = new JointTalk([first, second, other]);
        Assert.Equal(first.Talk.Words.Count + second.Talk.Words.Count + other.Talk.Words.Count, joint.Talk.Words.Count);
        Assert.Equal(3, joint.Talk.Voices.Count);
        Assert.Equal((1, 0), joint.Of(first.Talk.Words.Count));
        Assert.Equal((0, first.Talk.Words.Count - 1), joint.Of(first.Talk.Words.Count - 1));
        var retake = Assert.Single(Retakes.Of(joint.Talk));
        Assert.Equal([0, 1], retake.Attempts.Select(a => joint.Of(a.First).Text));
        Assert.True(joint.Talk.Words.Zip(joint.Talk.Words.Skip(1)).All(p => p.First.In <= p.Second.In));

        static TextTalk Named(Talk talk, string? name) =>
            new(
                new Transcript(
                    [
                        .. talk.Words.Select(
                            (w, i) => new RecordWord(new WordNumber(i), w.Text, new SittingRange(new(w.In), new(w.Out)), null, w.Voice)
                        ),
                    ],
                    Layers.None with
                    {
                        VoiceNames = name is null ? Layers.None.VoiceNames : Layers.None.VoiceNames.Add(0, name),
                    }
                )
            );
    }

    [Fact]
    public void What_the_script_does_not_have_is_told_between_its_lines()
    {
        var talk = Telling.Of(
            "A: hello there everybody now.",
            "A: The harbour froze in January that year.",
            "B: let us do that one again please.",
            "A: Nobody crossed the water until March came."
        );
        var lines = ScriptTakes.Of(
            talk,
            ScriptText.Read("The harbour froze in January that year.\nNobody crossed the water until March came.")
        );
        Assert.Equal(["let us do that one again please."], UnscriptedTalk.Of(talk, lines).Select(e => talk.Said(e.First, e.Last)));
        Assert.Empty(UnscriptedTalk.Of(talk, []));
    }
}
