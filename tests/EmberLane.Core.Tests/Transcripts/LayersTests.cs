using CsCheck;
using EmberLane.Core.Marks;
using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Transcripts;

/// <summary>What is set aside in layers: words and time, switched off and on, counted, and brought along.</summary>
public sealed class LayersTests
{
    private static readonly Signed Ada = new("Ada", null);

    // Words of 300 ms, one a second.
    private static Transcript Words(int count) =>
        new(
            [
                .. Enumerable
                    .Range(0, count)
                    .Select(i => new RecordWord(new WordNumber(i), "w" + i, Range(1000 * i, (1000 * i) + 300), null, 0)),
            ],
            Layers.None
        );

    private static SittingRange Range(long from, long to) =>
        new(new SittingTime(MediaTime.FromMilliseconds(from)), new SittingTime(MediaTime.FromMilliseconds(to)));

    private static Transcript With(Transcript text, TranscriptEdit edit) => text with { Layers = edit.Apply(text).Layers };

    private static Transcript WithPause(Transcript text, long from, long to) =>
        With(text, new PutMark(Marking.OverTime(text, MarkKind.Pause, Range(from, to), Ada)));

    [Fact]
    public void Time_between_words_is_set_aside_without_a_word_and_joins_with_words_that_are_aside_beside_it()
    {
        var text = WithPause(Words(5), 1350, 1900);
        Assert.DoesNotContain(text.Words, text.IsAside);
        Assert.Equal([Range(1350, 1900)], AsideStretches.Of(text));
        Assert.Single(text.CutsBefore(text.At(new(2))));
        Assert.Empty(text.CutsBefore(text.At(new(1))));
        text = With(text, Marking.TurnAside(text, new(2), new(3), Ada));
        Assert.Equal([Range(1350, 1900), Range(2000, 3300)], AsideStretches.Of(text));
        text = WithPause(text, 1900, 2000);
        Assert.Equal([Range(1350, 3300)], AsideStretches.Of(text));
    }

    [Fact]
    public void A_layer_that_is_off_sets_nothing_aside_keeps_its_marks_and_says_what_it_holds()
    {
        var text = WithPause(With(Words(4), Marking.TurnAside(Words(4), new(1), new(1), Ada)), 2400, 2900);
        var (layers, inverse) = new SwitchLayer("pauses", true).Apply(text);
        var off = text with { Layers = layers };
        Assert.Equal([Range(1000, 1300)], AsideStretches.Of(off));
        Assert.Empty(off.CutsBefore(off.At(new(3))));
        Assert.Equal(
            [("pauses", 1, 0, 500L, true), ("by-hand", 1, 1, 300L, false)],
            AsideStretches.Totals(off).Select(t => (t.Layer.Key, t.Places, t.Words, t.Time.ToMillisecondsRounded(), t.IsOff))
        );
        Assert.False(off.IsAside(With(off, new SwitchLayer("by-hand", true)).At(new(3))));
        Assert.False(With(off, new SwitchLayer("by-hand", true)) is var both && both.IsAside(both.At(new(1))));
        Assert.True((off with { Layers = inverse.Apply(off).Layers }).Layers.SameAs(text.Layers));
        Assert.Equal("the layer “Pauses” is off", EditWords.Of(new SwitchLayer("pauses", true), text).Said);
        Assert.Throws<EditRefusedException>(() => new SwitchLayer("bites", true).Apply(text));
    }

    [Fact]
    public void Words_are_brought_back_with_the_pauses_between_them_and_pauses_beyond_stay()
    {
        var text = WithPause(WithPause(With(Words(5), Marking.TurnAside(Words(5), new(1), new(3), Ada)), 1400, 1900), 4400, 4900);
        var back = With(text, Marking.TurnAside(text, new(1), new(2), Ada));
        Assert.Equal([Range(3000, 3300), Range(4400, 4900)], AsideStretches.Of(back));
        var pause = back.Layers.Marks.Values.Single(m => m.Kind == MarkKind.Pause);
        Assert.Equal([Range(3000, 3300)], AsideStretches.Of(With(back, Marking.TakeAway(back, pause.Id))));
        Assert.Throws<EditRefusedException>(() => Marking.TakeAway(back, 4711));
    }

    [Fact]
    public void Pauses_parts_and_what_is_spared_come_along_to_another_text_by_their_time_and_only_once()
    {
        var from = WithPause(Words(6), 2350, 2900);
        from = With(from, new PutMark(Marking.Over(from, MarkKind.Part, new(1), new(4), Ada, "The crossing")));
        from = With(from, new PutMark(Marking.Over(from, MarkKind.LeftHesitation, new(0), new(0), Ada)));
        // Another recogniser heard every second word only.
        var to = new Transcript(
            [.. from.Record.Where(w => w.Number.Value % 2 == 0).Select((w, i) => w with { Number = new WordNumber(i) })],
            Layers.None
        );
        var carried = With(to, CarriedMarks.Of(from, to)!);
        Assert.Equal([Range(2350, 2900)], AsideStretches.Of(carried));
        Assert.Single(carried.CutsBefore(carried.At(new(2))));
        var part = carried.Layers.Marks.Values.Single(m => m.Kind == MarkKind.Part);
        Assert.Equal(("The crossing", Range(1000, 4300), 1, 2), (part.Note, part.Range, part.First.Value, part.Last.Value));
        Assert.Contains(carried.Layers.Marks.Values, m => m.Kind == MarkKind.LeftHesitation);
        Assert.Null(CarriedMarks.Of(from, carried));
        Assert.Null(CarriedMarks.Of(carried, from));
    }

    [Fact]
    public void A_layer_that_is_off_is_off_in_the_text_that_is_chosen_next_and_on_again_with_it()
    {
        var from = With(Words(4), new SwitchLayer("pauses", true));
        var to = With(Words(4), CarriedMarks.Of(from, Words(4))!);
        Assert.Equal(["pauses"], to.Layers.Off);
        Assert.Null(CarriedMarks.Of(from, to));
        Assert.Empty(With(to, CarriedMarks.Of(Words(4), to)!).Layers.Off);
    }

    [Fact]
    public void Many_marks_of_one_kind_are_told_by_their_number()
    {
        var text = Words(9);
        var marks = Enumerable
            .Range(0, 8)
            .Select(i => Marking.OverTime(text, MarkKind.Pause, Range((1000 * i) + 400, (1000 * i) + 900), Ada, later: i));
        var edit = Marking.All([.. marks])!;
        Assert.Equal(("Pauses: 8 places set aside", new WordNumber(0)), EditWords.Of(edit, text));
        Assert.Equal("Pauses: 8 places brought back", EditWords.Of(edit.Apply(text).Inverse, text).Said);
        Assert.Equal("0:00.5 before “w1” set aside: a pause", EditWords.Of(((Together)edit).Edits[0], text).Said);
    }

    [Fact]
    public void Stretches_are_in_order_and_apart_and_hold_each_moment_that_one_of_them_held() =>
        Gen.Select(Gen.Int[0, 60], Gen.Int[0, 9])
            .List[0, 12]
            .Sample(made =>
            {
                var all = made.Select(m => Range(m.Item1, m.Item1 + m.Item2)).ToList();
                var union = AsideStretches.Union(all);
                Assert.All(union.Zip(union.Skip(1)), pair => Assert.True(pair.First.Out < pair.Second.In));
                for (var at = 0; at < 70; at++)
                {
                    var moment = Range(at, at).In;
                    Assert.Equal(all.Any(a => a.Holds(moment)), union.Any(u => u.Holds(moment)));
                }
            });

    [Fact]
    public void No_frame_of_a_card_is_shown_twice_however_short_what_is_set_aside_in_it() =>
        Gen.Select(Gen.Int[0, 900], Gen.Int[1, 90])
            .List[0, 8]
            .Sample(made =>
            {
                var pieces = StoryCut.Apart(Range(0, 1000), AsideStretches.Union([.. made.Select(m => Range(m.Item1, m.Item1 + m.Item2))]));
                foreach (var rate in new[] { FrameRate.R25, new FrameRate(24000, 1001), new FrameRate(60000, 1001) })
                {
                    var frames = CardFrames.Of(pieces, rate);
                    Assert.All(frames.Zip(frames.Skip(1)), f => Assert.True(f.First.First + f.First.Count < f.Second.First));
                    Assert.All(pieces, p => Assert.Contains(frames, f => f.Shown(rate).Covers(p)));
                    // Only whole frames that nothing of the card is in are left out.
                    var shown = frames.Sum(f => f.Count);
                    var needed = Enumerable
                        .Range(0, 70)
                        .Count(n => pieces.Any(p => p.Overlap(new CardFrames(n, 1).Shown(rate)) is not null));
                    Assert.Equal(needed, shown);
                }
            });
}
