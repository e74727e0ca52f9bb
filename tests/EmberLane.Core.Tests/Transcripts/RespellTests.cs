using System.Globalization;
using System.Text.Json;
using CsCheck;
using EmberLane.Core.Bites;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Transcripts;

/// <summary>What is truly said, written over what was heard: words split, joined and added, each with a time of its own.</summary>
public sealed class RespellTests
{
    // Words as “text start-end” in ms, with “/” before those of the next voice.
    private static Transcript Heard(params string[] words)
    {
        var voice = 0;
        return new Transcript(
            [
                .. words.Select(
                    (word, i) =>
                    {
                        voice += word.StartsWith('/') ? 1 : 0;
                        var (text, times) = (word.TrimStart('/').Split(' ')[0], word.Split(' ')[1].Split('-'));
                        return new RecordWord(
                            new(i),
                            text,
                            Range(
                                int.Parse(times[0], System.Globalization.CultureInfo.InvariantCulture),
                                int.Parse(times[1], System.Globalization.CultureInfo.InvariantCulture)
                            ),
                            new(300),
                            voice
                        );
                    }
                ),
            ],
            Layers.None
        );
    }

    private static SittingRange Range(int from, int to) =>
        new(new SittingTime(MediaTime.FromMilliseconds(from)), new SittingTime(MediaTime.FromMilliseconds(to)));

    private static Transcript After(Transcript transcript, TranscriptEdit? edit) =>
        edit is null ? transcript : transcript with { Layers = edit.Apply(transcript).Layers };

    private static string Shown(Transcript transcript) =>
        string.Join(
            ", ",
            transcript
                .Units(new(0), new(transcript.Words.Count - 1))
                .Select(u =>
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"{transcript.Said(u)} "
                            + $"{u[0].Range.In.FromZero.ToMillisecondsRounded()}-{u[^1].Range.Out.FromZero.ToMillisecondsRounded()}"
                    )
                )
        );

    private static string Written(Transcript transcript, int first, int last, string text) =>
        Shown(After(transcript, Respell.Over(transcript, new(first), new(last), text)));

    [Theory]
    [InlineData("Everybody", "the 0-100, Everybody 200-1000, left 1000-1400")]
    [InlineData("every body", "the 0-100, every 200-644, body 644-1000, left 1000-1400")]
    [InlineData("every single body", "the 0-100, every 200-467, single 467-787, body 787-1000, left 1000-1400")]
    public void A_word_that_is_several_gives_each_its_share_of_the_time(string typed, string expected) =>
        Assert.Equal(expected, Written(Heard("the 0-100", "everybody 200-1000", "left 1000-1400"), 1, 1, typed));

    [Theory]
    [InlineData("ferry came", "the 0-200, ferry 500-900, came 900-1350, in 2000-2200")]
    [InlineData("old ferry", "the 0-200, old 200-500, ferry 500-900, in 2000-2200")]
    [InlineData("old ferry came", "the 0-200, old 200-500, ferry 500-900, came 900-1350, in 2000-2200")]
    [InlineData(
        "big old ferry at last came",
        "the 0-200, big 200-350, old 350-500, ferry 500-900, at 900-1120, last 1120-1560, came 1560-2000, in 2000-2200"
    )]
    public void What_was_missed_beside_a_word_takes_the_gap_and_the_word_keeps_its_time(string typed, string expected) =>
        Assert.Equal(expected, Written(Heard("the 0-200", "fairy 500-900", "in 2000-2200"), 1, 1, typed));

    [Fact]
    public void Words_that_are_nothing_like_the_heard_one_share_its_time() =>
        Assert.Equal(
            "the 0-200, Tern 500-660, Hollow 660-900, in 2000-2200",
            Written(Heard("the 0-200", "and 500-900", "in 2000-2200"), 1, 1, "Tern Hollow")
        );

    [Fact]
    public void Where_there_is_no_gap_the_word_shares_its_time_with_what_was_missed() =>
        Assert.Equal(
            "the 0-200, ferry 200-422, came 422-600, in 600-700",
            Written(Heard("the 0-200", "fairy 200-600", "in 600-700"), 1, 1, "ferry came")
        );

    [Fact]
    public void One_word_over_several_joins_them_and_each_part_keeps_its_time()
    {
        var transcript = Heard("turn 0-300", "hollow 350-800", "ferry 900-1200");
        var joined = After(transcript, Respell.Over(transcript, new(0), new(1), "Ternhollow"));
        Assert.Equal("Ternhollow 0-800, ferry 900-1200", Shown(joined));
        Assert.Equal(transcript.Words.Select(w => w.Range), joined.Words.Select(w => w.Range));
        Assert.Equal(["Tern", "hollow"], joined.Words.Take(2).Select(joined.TextOf));
        Assert.Equal("Tern 0-300, Hollow 350-800, ferry 900-1200", Written(joined, 0, 1, "Tern Hollow"));
        Assert.Equal("a 0-300, ferry 900-1200", Written(transcript, 0, 1, "a"));
        Assert.Equal("once 0-300, ferry 900-1200", Written(Heard("turn 0-300", "/hollow 350-800", "ferry 900-1200"), 0, 1, "once"));
    }

    [Fact]
    public void More_words_than_were_heard_lie_where_they_are_most_alike()
    {
        var transcript = Heard("an 0-200", "old 200-400", "cableferry 400-1000", "at 1000-1100", "turn 1100-1300", "hollow 1300-1600");
        Assert.Equal(
            "an 0-200, old 200-400, cable 400-700, ferry 700-1000, at 1000-1100, Tern 1100-1300, Hollow 1300-1600",
            Written(transcript, 0, 5, "an old cable ferry at Tern Hollow")
        );
        Assert.Equal(
            "an 0-200, old 200-400, cableferry 400-1000, at 1000-1100, Ternhollow 1100-1600",
            Written(transcript, 0, 5, "an old cableferry at Ternhollow")
        );
    }

    [Fact]
    public void A_missed_word_is_put_behind_a_word_before_the_first_and_at_the_end()
    {
        var transcript = Heard("we 500-700", "crossed 700-1200", "/yes 3000-3200");
        string Inserted(int after, string text) => Shown(After(transcript, Respell.Insert(transcript, new(after), text)));
        Assert.Equal("we 500-580, all 580-700, crossed 700-1200, yes 3000-3200", Inserted(0, "all"));
        Assert.Equal("we 500-700, crossed 700-1200, over 1200-1650, yes 3000-3200", Inserted(1, "over"));
        Assert.Equal("so 50-500, we 500-700, crossed 700-1200, yes 3000-3200", Inserted(-1, "so"));
        Assert.Equal("we 500-700, crossed 700-1200, yes 3000-3200, indeed 3200-3650", Inserted(2, "indeed"));
        var over = After(transcript, Respell.Insert(transcript, new(1), "over"));
        Assert.Equal([0, 0, 0, 1], over.Words.Select(over.VoiceOf));
        Assert.Equal(
            "we 500-700, crossed 700-1200, over 1200-1650, there 1650-2100, yes 3000-3200",
            Shown(After(over, Respell.Insert(over, new(2), "there")))
        );
        Assert.Throws<EditRefusedException>(() => Respell.Insert(transcript, new(3), "x"));
        Assert.Throws<EditRefusedException>(() => Respell.Insert(transcript, new(0), " "));
        Assert.Throws<EditRefusedException>(() => Respell.Insert(Heard(), new(-1), "x"));
    }

    [Fact]
    public void Nothing_changes_where_it_reads_so_already_and_nonsense_is_refused()
    {
        var transcript = Heard("the 0-100", "ferry 200-1000");
        Assert.Null(Respell.Over(transcript, new(0), new(1), " the\u0007 ferry "));
        Assert.Null(Respell.All(transcript, [(new(0), new(0), "the"), (new(1), new(1), "ferry")]));
        Assert.Throws<EditRefusedException>(() => Respell.Over(transcript, new(0), new(0), ""));
        Assert.Throws<EditRefusedException>(() => Respell.Over(transcript, new(0), new(0), new string('x', 201)));
        Assert.Throws<EditRefusedException>(() => Respell.Over(transcript, new(1), new(2), "x"));
        Assert.Throws<EditRefusedException>(() => Respell.Over(transcript, new(-1), new(0), "x"));
        var long300 = Heard([.. Enumerable.Range(0, 300).Select(i => FormattableString.Invariant($"w {i * 10}-{(i * 10) + 5}"))]);
        Assert.Throws<EditRefusedException>(() => Respell.Over(long300, new(0), new(299), "x"));
    }

    [Fact]
    public void Letters_of_any_script_are_never_cut_within_one()
    {
        var transcript = Heard("a 0-100", "bb 100-300", "ccc 300-600");
        var joined = After(transcript, Respell.Over(transcript, new(0), new(2), "👩‍🌾é̈ש"));
        Assert.Equal("👩‍🌾é̈ש", joined.Said(new(0), new(2)));
        Assert.All(joined.Words, w => Assert.Equal(Core.TypedText.OneLine(joined.TextOf(w)), joined.TextOf(w)));
    }

    [Fact]
    public void A_bite_marked_on_a_word_that_is_split_later_keeps_both_parts_and_one_on_a_withdrawn_word_its_time()
    {
        var transcript = Heard("the 0-100", "everybody 200-1000", "left 1000-1400");
        var split = After(transcript, Respell.Over(transcript, new(1), new(1), "every body"));
        var bite = Bite.Of(1, 7, new(1), new(1), Range(200, 1000), "", "", "").Mark;
        Assert.Equal((new TextPlace(1), new TextPlace(2)), MarkPlace.Of(bite, split));
        Assert.Equal((new TextPlace(1), new TextPlace(1)), MarkPlace.Of(bite, transcript));
        var onAdded = bite with { First = new(3), Last = new(2) };
        Assert.Equal((new TextPlace(2), new TextPlace(3)), MarkPlace.Of(onAdded, split));
        Assert.Equal((new TextPlace(1), new TextPlace(1)), MarkPlace.Of(onAdded, transcript));
    }

    [Fact]
    public void Two_people_who_add_at_the_same_place_both_keep_their_word()
    {
        var transcript = Heard("we 500-700", "crossed 700-1200");
        var one = After(transcript, Respell.Insert(transcript, new(1), "over"));
        var both = After(one, Respell.Insert(one, new(0), "all"));
        Assert.Equal("we all crossed over", both.Said(new(0), new(3)));
        Assert.Throws<EditRefusedException>(() => Respell.Insert(transcript, new(0), "all").Apply(one));
        var withdrawn = After(both, new WithdrawWord(new(2)));
        Assert.Equal(("we all crossed", new WordNumber(4)), (withdrawn.Said(new(0), new(9)), withdrawn.FreshNumber()));
        Assert.Throws<EditRefusedException>(() => new Retype(new(2), "x").Apply(withdrawn));
        Assert.Throws<EditRefusedException>(() => new WithdrawWord(new(0)).Apply(withdrawn));
        Assert.Throws<EditRefusedException>(() => new AddWord(new(1), new(0), "x", Range(0, 1), 0).Apply(withdrawn));
        Assert.Throws<EditRefusedException>(() => new AddWord(new(5), new(2), "x", Range(0, 1), 0).Apply(withdrawn));
        Assert.Throws<EditRefusedException>(() => new AddWord(new(5), new(0), " ", Range(0, 1), 0).Apply(withdrawn));
    }

    [Fact]
    public void Words_missed_behind_one_word_and_before_the_next_are_not_put_into_the_same_gap()
    {
        var transcript = Heard("ferry 0-300", "comes 900-1200");
        var after = After(transcript, Respell.Over(transcript, new(0), new(1), "ferry a an comes")!);
        Assert.Equal("ferry a an comes", after.Said(new(0), new(9)));
        var seeded = Heard("b 132-448", "baa 477-617", "caba 779-884", "c 1118-1444");
        Assert.Equal(
            "b bcaaa cbcc ba ccbab abbbc b a ac",
            After(seeded, Respell.Over(seeded, new(1), new(3), "bcaaa cbcc ba ccbab abbbc b a ac")!).Said(new(0), new(20))
        );
    }

    [Fact]
    public void Whatever_is_written_over_whatever_reads_so_stays_in_its_time_and_is_taken_back() =>
        Gen.Select(
                Gen.Select(Gen.String[Gen.Char["abc"], 1, 4], Gen.Int[1, 400], Gen.Int[0, 300]).Array[1, 7],
                Gen.String[Gen.Char["abc"], 1, 5].Array[1, 8],
                Gen.Int[0, 6],
                Gen.Int[0, 6]
            )
            .Sample(
                (heard, typed, a, b) =>
                {
                    var at = 0;
                    var transcript = Heard([
                        .. heard.Select(h => FormattableString.Invariant($"{h.Item1} {at += h.Item3}-{at += h.Item2}")),
                    ]);
                    int first = Math.Min(a, b) % heard.Length,
                        last = Math.Max(first, Math.Max(a, b) % heard.Length);
                    var text = string.Join(' ', typed);
                    if (Respell.Over(transcript, new(first), new(last), text) is not { } edit)
                    {
                        Assert.Equal(text, transcript.Said(new(first), new(last)));
                        return;
                    }
                    var again = JsonSerializer.Deserialize<TranscriptEdit>(JsonSerializer.Serialize(edit))!;
                    var (layers, inverse) = again.Apply(transcript);
                    var after = transcript with { Layers = layers };
                    var all = after.Said(new(0), new(after.Words.Count - 1));
                    Assert.Equal(
                        string.Join(
                            ' ',
                            new[]
                            {
                                transcript.Said(new(0), new(first - 1)),
                                text,
                                transcript.Said(new(last + 1), new(heard.Length)),
                            }.Where(s => s.Length > 0)
                        ),
                        all
                    );
                    Assert.Equal(after.Words.OrderBy(w => w.Range.In).ThenBy(w => after.PlaceOf(w.Number)), after.Words);
                    Assert.All(after.Words.Zip(after.Words.Skip(1)), pair => Assert.True(pair.First.Range.Out <= pair.Second.Range.In));
                    Assert.All(after.Words.Index(), w => Assert.Equal(w.Index, after.PlaceOf(w.Item.Number)?.Value));
                    Assert.Equal(
                        transcript.Said(new(0), new(99)),
                        (transcript with { Layers = inverse.Apply(after).Layers }).Said(new(0), new(99))
                    );
                }
            );
}
