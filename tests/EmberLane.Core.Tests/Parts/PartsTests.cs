using CsCheck;
using EmberLane.Core.Edits;
using EmberLane.Core.Marks;
using EmberLane.Core.Parts;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Parts;

public sealed class PartsTests
{
    private static MediaTime At(long milliseconds) => MediaTime.FromMilliseconds(milliseconds);

    // Sentences, each with its voice; 300 ms a word, and as long as is said before each.
    private static Talk Said(params (int Voice, string Words, int Pause)[] sentences)
    {
        var words = new List<TalkWord>();
        var clock = 0L;
        foreach (var (voice, said, pause) in sentences)
        {
            clock += pause;
            foreach (var word in said.Split(' '))
            {
                words.Add(new TalkWord(word, At(clock), At(clock + 280), voice));
                clock += 300;
            }
        }
        return new Talk(words);
    }

    private static readonly string[] Boats =
    [
        "the ferry crossed the strait every morning.",
        "my father steered the ferry across the strait.",
        "the engine of the ferry was older than the quay.",
        "nobody at the quay could mend that engine.",
        "we crossed the strait with the engine smoking.",
        "then the ferry lay at the quay all winter.",
    ];

    private static readonly string[] School =
    [
        "the school had nine pupils in one room.",
        "a pupil cleaned the blackboard each evening.",
        "the teacher wrote sums on the blackboard.",
        "every pupil at the school feared the teacher.",
        "the teacher rang a bell outside the school.",
        "her pupils still remember the bell and the sums.",
    ];

    private static Talk Joined() =>
        Said([.. Boats.Select(s => (0, s, 300)), (1, "and what about the school?", 1_500), .. School.Select(s => (0, s, 300))]);

    [Fact]
    public void Talk_falls_into_parts_where_its_words_turn_to_something_else()
    {
        var units = TalkUnits.Of(Joined(), "en");
        var begins = LikelyParts.Of(units);
        Assert.Equal(2, begins.Count);
        Assert.InRange(begins[1], Boats.Length, Boats.Length + 1);
        var parts = PartWords.Of(units, begins);
        Assert.Contains("ferry", parts[0].Words);
        Assert.Contains(parts[1].Words, w => w is "school" or "pupil" or "pupils" or "teacher");
        Assert.All(parts, p => Assert.Equal(2, p.Sentences.Count));
    }

    [Fact]
    public void Talk_of_one_thing_is_one_part_and_no_talk_none()
    {
        Assert.Equal([0], LikelyParts.Of(TalkUnits.Of(Said([.. Boats.Concat(Boats).Select(s => (0, s, 300))]), "en")));
        Assert.Empty(LikelyParts.Of(TalkUnits.Of(new Talk([]), "en")));
        Assert.Equal([0], LikelyParts.Of(TalkUnits.Of(Said((0, "yes.", 0)), "en")));
    }

    [Fact]
    public void Parts_begin_in_order_at_units_whatever_is_said()
    {
        var word = Gen.OneOfConst("ferry", "quay", "school", "the", "bell", "12", "…", "é", "the.", "bell?");
        Gen.Select(word, Gen.Int[0, 2])
            .Array[0, 120]
            .Sample(said =>
            {
                var talk = new Talk([.. said.Select((w, i) => new TalkWord(w.Item1, At(i * 400), At((i * 400) + 300), w.Item2))]);
                var units = TalkUnits.Of(talk, "en");
                var begins = LikelyParts.Of(units);
                Assert.Equal(begins.Order().Distinct(), begins);
                Assert.Equal(units.Units.Count > 0, begins.FirstOrDefault(-1) == 0);
                Assert.Equal(begins.Count, PartWords.Of(units, begins).Count);
            });
    }

    [Fact]
    public void Key_terms_are_counted_in_all_their_forms_with_their_places()
    {
        var terms = PartWords.KeyTerms(TalkUnits.Of(Joined(), "en"), 20);
        var pupils = Assert.Single(terms, t => t.Word is "pupil" or "pupils");
        Assert.Equal((4, 4), (pupils.Count, pupils.Units.Count));
        Assert.DoesNotContain(terms, t => t.Word is "the" or "was");
        Assert.Equal(terms.OrderByDescending(t => t.Count).Select(t => t.Count), terms.Select(t => t.Count));
    }

    private sealed class Facts(int[] doubtful, int[] hesitating) : IPullFacts
    {
        public bool IsDoubtful(int word) => doubtful.Contains(word);

        public bool IsAside(int word) => false;

        public bool IsHesitation(int word) => hesitating.Contains(word);
    }

    private static IReadOnlyList<Pull> PullsOf(Talk talk, int[] doubtful, int[] hesitating, int least, int most)
    {
        var units = TalkUnits.Of(talk, "en");
        return Pulls.Of(talk, units, LikelyParts.Of(units), new Facts(doubtful, hesitating), new PullLength(At(least), At(most)), 12);
    }

    [Fact]
    public void A_pull_has_the_length_asked_for_and_begins_and_ends_with_a_thought()
    {
        var talk = Joined();
        var pulls = PullsOf(talk, [], [], 4_000, 8_000);
        Assert.NotEmpty(pulls);
        Assert.All(
            pulls,
            p =>
            {
                Assert.InRange((talk.Words[p.Last].Out - talk.Words[p.First].In).Units, At(4_000).Units, At(8_000).Units);
                Assert.True(p.First == 0 || talk.Words[p.First - 1].EndsSentence);
                Assert.True(talk.Words[p.Last].EndsSentence);
            }
        );
        Assert.Contains("whole thoughts", pulls[0].Reason, StringComparison.Ordinal);
        // None over another, the best first.
        var places = pulls.SelectMany(p => Enumerable.Range(p.First, p.Last - p.First + 1)).ToList();
        Assert.Equal(places.Count, places.Distinct().Count());
        Assert.Equal(pulls.OrderByDescending(p => p.Score).Select(p => p.Score), pulls.Select(p => p.Score));
        Assert.Empty(PullsOf(talk, [], [], 200_000, 300_000));
    }

    [Fact]
    public void Doubtful_ends_hesitations_and_a_change_of_theme_make_a_pull_worse()
    {
        var talk = Said((0, "the ferry lay at the quay all winter.", 300));
        var clean = Assert.Single(PullsOf(talk, [], [], 1_000, 9_000));
        Assert.Equal(100, clean.Score);
        var doubtful = Assert.Single(PullsOf(talk, [0], [], 1_000, 9_000));
        Assert.True(doubtful.Score < clean.Score);
        Assert.Contains("a doubtful end", doubtful.Reason, StringComparison.Ordinal);
        var hesitating = Assert.Single(PullsOf(talk, [], [3], 1_000, 9_000));
        Assert.True(hesitating.Score < clean.Score);
        Assert.Contains("one hesitation", hesitating.Reason, StringComparison.Ordinal);
        var linked = Assert.Single(PullsOf(Said((0, "and then it lay at the quay all winter.", 300)), [], [], 1_000, 9_000));
        Assert.Contains("begins with “and”", linked.Reason, StringComparison.Ordinal);
    }

    private static Transcript WithParts(params (int First, int Last)[] parts)
    {
        var text = new Transcript(
            [
                .. Enumerable
                    .Range(0, 30)
                    .Select(i => new RecordWord(new(i), $"w{i}", new(new(At(i * 400)), new(At((i * 400) + 300))), null, 0)),
            ],
            Layers.None
        );
        var all = Marking.All([
            .. parts.Select(
                (p, i) =>
                    Marking.Over(
                        text,
                        MarkKind.Part,
                        new(p.First),
                        new(p.Last),
                        new Signed("Ada", DateTimeOffset.UnixEpoch),
                        $"part {i}",
                        i
                    )
            ),
        ])!;
        return With(text, all);
    }

    private static Transcript With(Transcript text, TranscriptEdit edit) => new(text.Record, edit.Apply(text).Layers);

    private static (int, int)[] PartsOf(Transcript text) =>
        [.. text.Layers.Marks.Values.Where(m => m.Kind == MarkKind.Part).Select(m => (m.First.Value, m.Last.Value)).OrderBy(p => p.Item1)];

    private static long PartAt(Transcript text, int first) => text.Layers.Marks.Values.Single(m => m.First.Value == first).Id;

    [Fact]
    public void A_border_moved_leaves_no_word_between_two_parts_and_is_led_back_in_one_step()
    {
        var text = WithParts((0, 9), (10, 19));
        var edit = PartBorders.BeginAt(text, PartAt(text, 10), new(7));
        var moved = With(text, edit);
        Assert.Equal([(0, 6), (7, 19)], PartsOf(moved));
        Assert.Equal([(0, 9), (10, 19)], PartsOf(With(moved, edit.Apply(text).Inverse)));
        // No further than the other part's first word, nor than its own last.
        Assert.All(
            [0, 20, 25, 10],
            at => Assert.Throws<EditRefusedException>(() => PartBorders.BeginAt(text, PartAt(text, 10), new(at)).Apply(text))
        );
        var apart = WithParts((0, 4), (10, 19));
        Assert.Equal([(0, 4), (6, 19)], PartsOf(With(apart, PartBorders.BeginAt(apart, PartAt(apart, 10), new(6)))));
        Assert.Throws<EditRefusedException>(() => PartBorders.BeginAt(apart, PartAt(apart, 10), new(4)));
    }

    [Fact]
    public void A_border_taken_away_gives_the_talk_to_the_part_before()
    {
        var text = WithParts((0, 9), (10, 19));
        Assert.Equal([(0, 19)], PartsOf(With(text, PartBorders.JoinToBefore(text, PartAt(text, 10)))));
        Assert.Throws<EditRefusedException>(() => PartBorders.JoinToBefore(text, PartAt(text, 0)));
        Assert.Throws<EditRefusedException>(() => PartBorders.JoinToBefore(text, 99));
    }
}
