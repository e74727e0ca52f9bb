using CsCheck;
using EmberLane.Core.Captions;
using EmberLane.Core.Edits;
using EmberLane.Core.Speech;

namespace EmberLane.Core.Tests.Captions;

/// <summary>Captions that people made their own: what of them stays when the story and its words change.</summary>
public sealed class CaptionTrackTests
{
    private static readonly Guid One = new("00000000-0000-0000-0000-000000000001"),
        Two = new("00000000-0000-0000-0000-000000000002");

    private static readonly CaptionRules Rules = new();

    private static MediaTime Ms(long milliseconds) => MediaTime.FromMilliseconds(milliseconds);

    // Words of a piece, a third of a second each, from a moment of the story on; they are said ten seconds later in their sitting.
    private static IEnumerable<CaptionWord> Said(
        string text,
        Guid piece,
        long from,
        long saidFrom = 10_000,
        string who = "Maren",
        long sitting = 7
    )
    {
        foreach (var (i, word) in text.Split(' ').Index())
        {
            long at = from + (i * 333),
                said = saidFrom + (i * 333);
            yield return new CaptionWord(
                new RecognisedWord(word, new SourceRange(new SourceTime(Ms(at)), new SourceTime(Ms(at + 300))), null, who),
                piece,
                sitting,
                new SittingRange(new SittingTime(Ms(said)), new SittingTime(Ms(said + 300)))
            );
        }
    }

    private static IReadOnlyList<LaidCaption> Lay(IEnumerable<CaptionWord> words, CaptionSetup setup, string language = "") =>
        CaptionTrack.Lay([.. words], setup, language, Rules, []);

    private static CaptionSetup Fixed(CaptionSetup setup, IReadOnlyList<LaidCaption> of, string language, params FixedCaption[] made) =>
        setup.Fix(language, [.. made.Select(m => (Guid.NewGuid(), m))], [.. of.Select(c => c.Name).OfType<string>()]).Apply(setup).State;

    private static CaptionSetup Retyped(IEnumerable<CaptionWord> words, int number, string text, CaptionSetup? setup = null)
    {
        var now = Lay(words, setup ?? CaptionSetup.Empty)[number];
        return Fixed(setup ?? CaptionSetup.Empty, [now], "", CaptionFixes.Retype(now, text));
    }

    private const string Talk = "We pulled the ferry out at dawn. Nobody on the island had asked for it.";

    [Fact]
    public void A_retyped_caption_stands_as_it_was_typed_and_the_others_are_made_around_it()
    {
        var words = Said(Talk, One, 1_000).ToList();
        var before = Lay(words, CaptionSetup.Empty);
        var after = Lay(words, Retyped(words, 0, "We took the ferry out.\nAt dawn."));
        Assert.Equal("We took the ferry out.\nAt dawn.", after[0].Text);
        Assert.Equal(before.Skip(1).Select(c => c.Text), after.Skip(1).Select(c => c.Text));
        Assert.False(after[0].IsStale);
        Assert.Equal(before[0].Said, after[0].Said);
    }

    [Fact]
    public void A_word_that_is_mended_later_comes_through_in_what_was_typed()
    {
        var setup = Retyped(Said(Talk, One, 1_000), 0, "We took the ferry\nout at dawn.");
        var mended = Lay(Said(Talk.Replace("dawn.", "noon.", StringComparison.Ordinal), One, 1_000), setup);
        Assert.Equal("We took the ferry\nout at noon.", mended[0].Text);
        Assert.False(mended[0].IsStale);
    }

    [Fact]
    public void Where_the_typed_word_itself_is_mended_the_typing_stays_and_says_so()
    {
        var setup = Retyped(Said(Talk, One, 1_000), 0, "We took the ferry out at dawn.");
        var mended = Lay(Said(Talk.Replace("pulled", "hauled", StringComparison.Ordinal), One, 1_000), setup);
        Assert.Equal("We took the ferry out at dawn.", mended[0].Text.ReplaceLineEndings(" "));
        Assert.True(mended[0].IsStale);
        Assert.Contains(CaptionLook.Of(mended[0], Rules, ""), l => l.Contains("hauled", StringComparison.Ordinal));
    }

    [Fact]
    public void A_caption_goes_with_its_card_and_is_left_out_with_it()
    {
        var setup = Retyped(Said(Talk, One, 1_000), 0, "The ferry.");
        var other = Said("I was asleep then.", Two, 0, 90_000, "Ines", 8).ToList();
        Assert.Equal("The ferry.", Lay([.. other, .. Said(Talk, One, 5_000)], setup)[1].Text);
        Assert.DoesNotContain(Lay(other, setup), c => c.Name is not null);
        // Its words lie in another card of the sitting by now.
        Assert.Equal("The ferry.", Lay(Said(Talk, Two, 5_000), setup)[0].Text);
    }

    [Fact]
    public void A_caption_is_split_and_joined_and_its_words_stay_in_order()
    {
        var words = Said(Talk, One, 1_000).ToList();
        var first = Lay(words, CaptionSetup.Empty)[0];
        var setup = Fixed(CaptionSetup.Empty, [first], "", [.. CaptionFixes.Split(first, 3, isSpoken: true)]);
        var split = Lay(words, setup);
        Assert.Equal(["We pulled the", "ferry out at dawn."], split.Take(2).Select(c => c.Text));
        Assert.Equal(words, split.SelectMany(c => c.Words));
        setup = Fixed(setup, [.. split.Take(2)], "", CaptionFixes.Join(split[0], split[1]));
        Assert.Equal(first.Said, Lay(words, setup)[0].Said);
        Assert.Single(setup.Choices);
    }

    [Fact]
    public void A_typed_caption_is_split_where_its_own_words_and_what_is_said_meet()
    {
        var words = Said(Talk, One, 1_000).ToList();
        var typed = Lay(words, Retyped(words, 0, "Well, we took the ferry\nout at dawn."))[0];
        var parts = CaptionFixes.Split(typed, 5, isSpoken: true);
        Assert.Equal(["Well, we took the ferry", "out at dawn."], parts.Select(p => p.Text));
        Assert.Equal(["We pulled the ferry", "out at dawn."], parts.Select(p => p.Words));
        Assert.Throws<EditRefusedException>(() => CaptionFixes.Split(typed, 8, isSpoken: true));
        Assert.Throws<EditRefusedException>(() => CaptionFixes.Split(typed, 0, isSpoken: true));
    }

    [Fact]
    public void Two_people_joined_each_have_a_line_with_a_dash()
    {
        var words = Said("Were you there then?", One, 0).Concat(Said("I was not awake.", Two, 4_000, 40_000, "Ines")).ToList();
        var (one, other) = (Lay(words[..4], CaptionSetup.Empty)[0], Lay(words[4..], CaptionSetup.Empty)[0]);
        var typed = other with
        {
            Fixed = CaptionFixes.Retype(other, "I slept."),
            Caption = other.Caption with { Lines = [new("Ines", "I slept.", false)] },
        };
        var joined = Lay(words, Fixed(CaptionSetup.Empty, [], "", CaptionFixes.Join(one, typed)))[0];
        Assert.Equal("– Were you there then?\n– I slept.", joined.Text);
        Assert.Equal(["Maren", "Ines"], joined.Caption.Lines.Select(l => l.Who));
    }

    [Fact]
    public void Times_that_were_set_hold_when_the_card_moves_and_neighbours_make_room()
    {
        var words = Said(Talk, One, 1_000).ToList();
        var now = Lay(words, CaptionSetup.Empty);
        var moved = CaptionFixes.Move(now[1], now[1].Caption.In - Ms(400), now[1].Caption.Out + Ms(250), now[0], null);
        var setup = Fixed(CaptionSetup.Empty, [now[1]], "", moved);
        var after = Lay(words, setup);
        Assert.Equal(now[1].Caption.In - Ms(400), after[1].Caption.In);
        Assert.Equal(now[1].Caption.Out + Ms(250), after[1].Caption.Out);
        Assert.True(after[0].Caption.Out <= after[1].Caption.In);
        var later = Lay(Said(Talk, One, 21_000), setup);
        Assert.Equal(after[1].Caption.In + Ms(20_000), later[1].Caption.In);
        Assert.Equal(now[1].Text, after[1].Text);
    }

    [Theory]
    [InlineData(0, 50)]
    [InlineData(0, 70_000)]
    [InlineData(-5_000, 2_000)]
    [InlineData(900, 200_000)]
    public void Times_that_leave_nothing_to_read_are_refused(long from, long to)
    {
        var now = Lay(Said(Talk, One, 1_000), CaptionSetup.Empty);
        Assert.Throws<EditRefusedException>(() => CaptionFixes.Move(now[0], Ms(from), Ms(to), null, now[1]));
    }

    [Fact]
    public void A_translation_stands_with_its_words_and_says_when_they_were_changed()
    {
        var words = Said(Talk, One, 1_000).ToList();
        var spoken = Lay(words, CaptionSetup.Empty);
        var fit = TranslationTable.Fit(
            [
                new TranslatedRow(
                    2,
                    spoken[0].Caption.In,
                    spoken[0].Text.ReplaceLineEndings(" "),
                    "Bei Tagesanbruch zogen wir die Fähre hinaus."
                ),
            ],
            spoken
        );
        var setup = Fixed(CaptionSetup.Empty, [], "German", [.. TranslationTable.Translated(fit)]);
        Assert.Equal(["German"], setup.Languages);
        var german = Lay(words, setup, "German");
        Assert.Equal("Bei Tagesanbruch zogen wir die Fähre hinaus.", german[0].Text.ReplaceLineEndings(" "));
        Assert.All(german[0].Caption.Lines, l => Assert.True(l.Shown.Length <= Rules.Line));
        Assert.Equal(spoken[0].Caption.In, german[0].Caption.In);
        Assert.Null(german[1].Name);
        Assert.Equal(["not in German yet"], CaptionLook.Of(german[1], Rules, "German"));
        Assert.True(Lay(Said(Talk.Replace("dawn.", "noon.", StringComparison.Ordinal), One, 1_000), setup, "German")[0].IsStale);
        // The spoken language is as it was.
        Assert.Equal(spoken.Select(c => c.Text), Lay(words, setup).Select(c => c.Text));
    }

    [Theory]
    [InlineData("")]
    [InlineData("  \n \n")]
    [InlineData("a\nb\nc\nd\ne")]
    public void A_caption_that_can_not_be_read_is_refused(string text) =>
        Assert.Throws<EditRefusedException>(() => CaptionFixes.Retype(Lay(Said(Talk, One, 0), CaptionSetup.Empty)[0], text));

    [Fact]
    public void Whatever_is_fixed_no_caption_lies_over_another_and_every_word_is_in_one()
    {
        Gen.Select(Gen.Int[1, 60], Gen.Select(Gen.Int[0, 40], Gen.Int[0, 4], Gen.Int[-900, 900]).Array[0, 12])
            .Sample(
                (count, steps) =>
                {
                    var words = Said(string.Join(' ', Enumerable.Range(0, count).Select(i => $"w{i}{(i % 7 == 6 ? "." : "")}")), One, 500)
                        .ToList();
                    var setup = CaptionSetup.Empty;
                    foreach (var (which, kind, by) in steps)
                    {
                        var now = Lay(words, setup);
                        var at = which % now.Count;
                        var (of, made) = Step(now, at, kind, by);
                        setup = Fixed(setup, of, "", made);
                    }
                    var laid = Lay(words, setup);
                    return words.SequenceEqual(laid.SelectMany(c => c.Words))
                        && laid.Zip(laid.Skip(1)).All(p => p.First.Caption.Out <= p.Second.Caption.In)
                        && laid.All(c => c.Caption.In < c.Caption.Out && c.Caption.Lines.Count > 0);
                },
                iter: 1_000
            );

        static (IReadOnlyList<LaidCaption> Of, FixedCaption[] Made) Step(IReadOnlyList<LaidCaption> now, int at, int kind, int by)
        {
            try
            {
                return kind switch
                {
                    0 => ([now[at]], [CaptionFixes.Retype(now[at], $"typed {by}")]),
                    1 => ([now[at]], [.. CaptionFixes.Split(now[at], 1, isSpoken: true)]),
                    2 when at + 1 < now.Count => ([now[at], now[at + 1]], [CaptionFixes.Join(now[at], now[at + 1])]),
                    3 => (
                        [now[at]],
                        [
                            CaptionFixes.Move(
                                now[at],
                                now[at].Caption.In + Ms(by),
                                now[at].Caption.Out + Ms(-by),
                                now.ElementAtOrDefault(at - 1),
                                now.ElementAtOrDefault(at + 1)
                            ),
                        ]
                    ),
                    _ => ([now[at]], []),
                };
            }
            catch (EditRefusedException)
            {
                return ([], []);
            }
        }
    }

    [Fact]
    public void What_is_chosen_for_captions_is_taken_back_to_the_letter()
    {
        var words = Said(Talk, One, 1_000).ToList();
        var before = Retyped(words, 0, "One.");
        var now = Lay(words, before)[0];
        var edit = before.Fix("", [(Guid.NewGuid(), CaptionFixes.Retype(now, "Another."))]);
        var (after, inverse) = edit.Apply(before);
        Assert.Equal("Another.", Lay(words, after)[0].Text);
        Assert.Equal(before.Choices, inverse.Apply(after).State.Choices);
        Assert.Equal(
            new CaptionRules { Line = 30, Lines = 1 },
            CaptionSetup.By(new CaptionRules { Line = 30, Lines = 1 }).Apply(after).State.Rules
        );
        Assert.Throws<FormatException>(() => CaptionSetup.By(new CaptionRules { Lines = 9 }));
        Assert.Throws<EditRefusedException>(() => CaptionSetup.LanguageOf(" \n"));
    }
}
