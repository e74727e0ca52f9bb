using System.Net;
using EmberLane.Application.Rooms;
using EmberLane.Core.Captions;
using EmberLane.Core.Copies;
using EmberLane.Core.Marks;
using EmberLane.Core.Stories;
using EmberLane.Core.Time;
using EmberLane.Running;
using EmberLane.Store;

namespace EmberLane.Web.Tests;

/// <summary>What somebody asked to leave out: it leaves in nothing, until a named person releases it.</summary>
public sealed class OffRecordTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private static readonly string[] Leaves =
    [
        "/productions/1/handoff?handler=Package&part=srt&alone=true",
        "/productions/1/handoff?handler=Package&part=vtt&alone=true",
        "/productions/1/handoff?handler=Package&part=txt&alone=true",
        "/productions/1/handoff?handler=Package&part=cuts&alone=true",
        "/productions/1/handoff?handler=Package&part=translation&alone=true",
        "/productions/1/handoff?handler=Package&part=page&alone=true",
        "/productions/1/handoff?handler=Package&part=otio&alone=true",
        "/productions/1/read/1?handler=Take&format=txt&aside=true",
        "/productions/1/read/1?handler=Take&format=srt&aside=true",
    ];

    private Browser Browser => demo.Browser;

    [Fact]
    public async Task A_word_in_a_card_is_in_nothing_that_leaves_until_it_is_released_by_name_with_a_reason()
    {
        var cancel = TestContext.Current.CancellationToken;
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        async Task<List<string>> AllAsync()
        {
            var texts = new List<string>();
            foreach (var address in Leaves)
            {
                texts.Add(await client.GetStringAsync(new Uri(address, UriKind.Relative), cancel));
            }
            return texts;
        }
        // A long word that a card says once, and that nothing else does.
        var card = demo.Get<Stories>().Get(1, "")!.Story.Cards[0];
        var text = demo.Crossing;
        var word = text
            .Words.Where(w =>
                card.SittingId == 1 && w.Range.In > card.Range.In && w.Range.Out < card.Range.Out && text.TextOf(w).Length > 4
            )
            .First(w => text.Words.Count(o => text.TextOf(o).Equals(text.TextOf(w), StringComparison.OrdinalIgnoreCase)) == 1);
        var said = text.TextOf(word);
        Assert.Contains(await AllAsync(), t => t.Contains(said, StringComparison.Ordinal));
        var frames = (await client.GetStringAsync(new Uri(Leaves[3], UriKind.Relative), cancel)).Length;

        demo.OpenReadAt(word.Number);
        demo.SelectWords(2);
        Browser.PressWithShift("x");
        Browser.Until(() => demo.Crossing.IsHeld(word), "the word to be off the record");
        Assert.All(await AllAsync(), t => Assert.DoesNotContain(said, t, StringComparison.Ordinal));
        Assert.NotEqual(frames, (await client.GetStringAsync(new Uri(Leaves[3], UriKind.Relative), cancel)).Length);
        // By any other way it does not come back.
        var refused = await demo.PostAsync("/productions/1/read/1?handler=Layer&layer=off-record&off=true", []);
        Assert.Equal(HttpStatusCode.Conflict, refused.StatusCode);

        demo.Open("/productions/1/off-record");
        Browser.UntilText(".held-list .speech", said);
        Browser.Click(".held-list button");
        Browser.UntilText(".alert-line", "Say who releases it, and why");
        Browser.Type(".held-list [name=by]", "Maren Oakhurst");
        Browser.Type(".held-list [name=reason]", "agreed by letter");
        Browser.Click(".held-list button");
        Browser.UntilText(".page-wide", "released by Maren Oakhurst: agreed by letter");
        Assert.Contains(await AllAsync(), t => t.Contains(said, StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_file_laid_as_it_is_over_words_off_the_record_keeps_the_whole_story_in()
    {
        var (stories, transcripts) = (demo.Get<Stories>(), demo.Get<Store.Transcripts>());
        var (id, word) = (demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value, demo.Crossing.Words[5]);
        var source = demo.Get<Footage>().SourcesOf(1).First(s => s.Facts.Channels > 0);
        var from = source.Place!.Value.ToSource(word.Range.In);
        var media = new PlainMedia(
            Guid.NewGuid(),
            source.Id,
            new SourceRange(from, from + MediaTime.FromMilliseconds(2_000)),
            0,
            MediaTime.Zero,
            MediaTime.Zero
        );
        stories.Apply(1, LayPiece.Of(media, 0), "Ada");
        transcripts.Apply(id, t => new PutMark(Marking.Over(t, MarkKind.OffTheRecord, new(5), new(6), new Signed("Ada", null))), "Ada");
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        var answer = await client.GetAsync(new Uri(Leaves[0], UriKind.Relative), TestContext.Current.CancellationToken);
        Assert.Equal(HttpStatusCode.Conflict, answer.StatusCode);
        Assert.Contains(
            source.Name,
            await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken),
            StringComparison.Ordinal
        );
        demo.Open("/productions/1/handoff");
        Browser.UntilText(".alert-line", "off the record");
        transcripts.Step(id, redo: false, "Ada");
        stories.Step(1, redo: false, "Ada");
        demo.Open("/productions/1/handoff");
        Assert.Empty(Browser.All(".alert-line"));
    }

    [Fact]
    public void A_card_dissolves_from_the_one_before_only_as_far_as_that_shows_nothing_off_the_record()
    {
        var (stories, transcripts, desk) = (demo.Get<Stories>(), demo.Get<Store.Transcripts>(), demo.Get<Desk>());
        var cards = stories.Get(1, "")!.Story.Cards;
        var (one, next) = cards.Zip(cards.Skip(1)).First(p => p.First.SittingId == 1 && p.Second.SittingId == 1);
        stories.Apply(1, new ComeIn(next.Id, new Dissolve(MediaTime.FromMilliseconds(8_000), true)), "Ada");
        var free = desk.DissolvesOf(stories.Get(1, "")!)[next.Id];
        // As long as the card itself is.
        Assert.True(free.Seen > MediaTime.FromMilliseconds(2_000) && free.Seen == free.Heard);
        // The second word behind the card's end.
        var (id, text) = (demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value, demo.Crossing);
        var behind = text.Words.Index().Where(w => w.Item.Range.In > one.Range.Out).ElementAt(1);
        transcripts.Apply(
            id,
            t => new PutMark(Marking.Over(t, MarkKind.OffTheRecord, new(behind.Index), new(behind.Index), new Signed("Ada", null))),
            "Ada"
        );
        var rate = stories.Get(1, "")!.Start.Count.Rate;
        var tight = desk.DissolvesOf(stories.Get(1, "")!)[next.Id];
        Assert.InRange((behind.Item.Range.In - one.Range.Out - tight.Seen).Units, -rate.TimeOf(1).Units, rate.TimeOf(2).Units);
        Assert.Equal(tight.Seen, tight.Heard);
        transcripts.Step(id, redo: false, "Ada");
        // A heading between the two is nothing that it could dissolve from.
        var at = stories.Get(1, "")!.Story.IndexOf(next.Id);
        stories.Apply(1, new LayPiece(new SectionHead(Guid.NewGuid(), "The bench", MediaTime.Zero, false), at), "Ada");
        Assert.Equal(free, desk.DissolvesOf(stories.Get(1, "")!)[next.Id]);
        stories.Step(1, redo: false, "Ada");
        stories.Step(1, redo: false, "Ada");
        Assert.Empty(desk.DissolvesOf(stories.Get(1, "")!));
    }

    [Fact]
    public async Task A_copy_made_before_words_were_put_off_the_record_is_held_back_until_they_are_released()
    {
        const string copies = "/productions/1/handoff/copies";
        var transcripts = demo.Get<Store.Transcripts>();
        var card = demo.Get<Stories>().Get(1, "")!.Story.Cards.First(c => c.SittingId == 1);
        var (id, text) = (demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value, demo.Crossing);
        var places = text.Words.Index().ToList();
        var inside = places.First(w => w.Item.Range.In >= card.Range.In + MediaTime.FromMilliseconds(500)).Index;
        var before = places.Last(w => w.Item.Range.Out < card.Range.In - MediaTime.FromMilliseconds(100)).Index;
        await demo.PostAsync($"{copies}?handler=Make", [new("Kind", "wav"), new("Of", card.Id.ToString())]);
        demo.Open(copies);
        Browser.UntilText("#copies", "measured");
        var address = new Uri($"{copies}?handler=File&copy={Browser.Find(".copy").GetAttribute("id")!.Split('-')[1]}", UriKind.Relative);
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        async Task<HttpStatusCode> AskedAsync() => (await client.GetAsync(address, TestContext.Current.CancellationToken)).StatusCode;
        void Hold(int at) =>
            transcripts.Apply(
                id,
                t => new PutMark(Marking.Over(t, MarkKind.OffTheRecord, new(at), new(at), new Signed("Ada", null))),
                "Ada"
            );

        Hold(before);
        Assert.Equal(HttpStatusCode.OK, await AskedAsync());
        Hold(inside);
        Assert.Equal(HttpStatusCode.Conflict, await AskedAsync());
        demo.Open(copies);
        Browser.UntilText(".copy", "held back");
        Assert.Empty(Browser.All(".copy audio"));
        transcripts.Step(id, redo: false, "Ada");
        Assert.Equal(HttpStatusCode.OK, await AskedAsync());
        transcripts.Step(id, redo: false, "Ada");
    }

    [Fact]
    public void What_a_story_of_another_production_holds_of_words_off_the_record_is_held_back_there_too()
    {
        var (held, transcripts) = (demo.Get<OffTheRecord>(), demo.Get<Store.Transcripts>());
        var (id, text) = (demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value, demo.Crossing);
        // Of a production that has nothing off the record itself.
        const long elsewhere = 99;
        StoredCopy Of(int first, int last) =>
            new(
                first,
                elsewhere,
                StoryId: 1,
                Version: 1,
                "a copy",
                new CopyWish(),
                "Ada",
                default,
                Bytes: 1,
                Loudness: null,
                [new CopyPart(1, new SittingRange(text.Words[first].Range.In, text.Words[last].Range.Out))]
            );
        var retyped = new FixedCaption([new CaptionPlace(Guid.NewGuid(), 1, text.Words[10].Range)], "said", "as it was said", null, null);
        var setup = CaptionSetup.Empty.Fix("", [(Guid.NewGuid(), retyped)]).Apply(CaptionSetup.Empty).State;
        Assert.Empty(held.Withdrawn(elsewhere, [Of(8, 12), Of(30, 34)]));
        Assert.NotEmpty(held.Leaving(setup).Choices);

        transcripts.Apply(id, t => new PutMark(Marking.Over(t, MarkKind.OffTheRecord, new(10), new(10), new Signed("Ada", null))), "Ada");
        Assert.Equal([8], held.Withdrawn(elsewhere, [Of(8, 12), Of(30, 34)]));
        Assert.Empty(held.Leaving(setup).Choices);
        transcripts.Step(id, redo: false, "Ada");
    }
}
