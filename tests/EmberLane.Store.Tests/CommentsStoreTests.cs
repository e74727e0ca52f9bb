using EmberLane.Core;
using EmberLane.Core.Comments;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

/// <summary>What people say of words, bites and cards, and what of it is new to whom.</summary>
public sealed class CommentsStoreTests : IDisposable
{
    private static readonly string[] Names = ["Ida", "Wren"];

    private readonly string folder = Directory.CreateTempSubdirectory("ember-comments").FullName;
    private readonly Comments comments;
    private readonly SeenUntil seen;
    private readonly long production,
        other;

    public CommentsStoreTests()
    {
        var clock = new Clock();
        var database = new Database(Path.Combine(folder, "ember.sqlite"));
        (comments, seen) = (new Comments(database, clock), new SeenUntil(database, clock));
        var footage = new Footage(database, clock);
        (production, other) = (footage.AddProduction("Slack Water"), footage.AddProduction("Night Trains"));
    }

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private static WordsPlace Words(int from, int to) =>
        new(
            7,
            9,
            new WordNumber(from),
            new WordNumber(to),
            new SittingRange(
                new SittingTime(MediaTime.FromMilliseconds(from * 1_000L)),
                new SittingTime(MediaTime.FromMilliseconds(to * 1_000L))
            )
        );

    private long Begin(CommentPlace place, string body = "so", string who = "Ida") =>
        comments.Begin(production, place, "what was said", body, who, Names);

    [Fact]
    public void A_talk_is_kept_as_it_was_said_and_answered_in_order()
    {
        var card = new CardPlace(3, Guid.NewGuid());
        var id = Begin(card, "first @Wren");
        comments.Answer(production, id, "second", "Wren", Names);
        comments.Answer(production, id, "third", "Ida", Names);
        var thread = comments.Thread(production, id)!;
        Assert.Equal((card, "what was said", "Ida"), (thread.First.Place, thread.First.Quote, thread.First.Who));
        Assert.Equal(["first @Wren", "second", "third"], thread.All.Select(c => c.Body));
        Assert.Equal([id], comments.Of(production, card).Select(t => t.First.Id));
    }

    [Fact]
    public void Words_are_found_by_the_time_that_they_share_also_in_another_text()
    {
        var id = Begin(Words(10, 20));
        Assert.Equal([id], comments.Of(production, Words(19, 30) with { TextId = 33 }).Select(t => t.First.Id));
        Assert.Empty(comments.Of(production, Words(20, 30)));
        Assert.Empty(comments.Of(production, Words(15, 16) with { SittingId = 8 }));
        var early = Begin(Words(1, 2));
        Assert.Equal([early, id], comments.OfSitting(production, 7).Select(t => t.First.Id));
        Assert.Equal(Words(10, 20), comments.Thread(production, id)!.First.Place);
    }

    [Fact]
    public void What_is_settled_is_listed_apart_until_somebody_answers()
    {
        var (one, two) = (Begin(new BitePlace(3)), Begin(new BitePlace(3)));
        comments.Settle(production, one, true, "Wren");
        Assert.Equal([two], comments.Listed(production, ListedTalks.Open, "Wren").Select(t => t.First.Id));
        Assert.Equal("Wren", comments.Listed(production, ListedTalks.Settled, "Ida").Single().First.SettledBy);
        Assert.Equal(1, comments.Counts(production)["bite-3"]);
        comments.Answer(production, one, "not yet", "Ida", Names);
        Assert.Empty(comments.Listed(production, ListedTalks.Settled, "Ida"));
        Assert.Equal([one, two], comments.Listed(production, ListedTalks.Open, "Ida").Select(t => t.First.Id));
    }

    [Fact]
    public void Only_who_said_it_takes_it_away_and_it_comes_back_whole()
    {
        var id = Begin(new BitePlace(3), "rather not");
        Assert.Throws<EditRefusedException>(() => comments.TakeAway(production, id, true, "Wren"));
        comments.TakeAway(production, id, true, "Ida");
        Assert.Empty(comments.Listed(production, ListedTalks.Open, "Ida"));
        Assert.Empty(comments.Counts(production));
        comments.TakeAway(production, id, false, "Ida");
        Assert.Equal("rather not", comments.Listed(production, ListedTalks.Open, "Ida").Single().First.Body);
        var answer = comments.Answer(production, id, "why", "Wren", Names);
        comments.TakeAway(production, id, true, "Ida");
        var thread = comments.Listed(production, ListedTalks.Open, "Ida").Single();
        Assert.True(thread.First.IsAway);
        Assert.Equal(answer, thread.Answers.Single().Id);
    }

    [Fact]
    public void Mine_are_those_that_I_began_or_that_mention_me_also_in_an_answer()
    {
        var (mine, toMe, answered, theirs) = (
            Begin(new BitePlace(1), "so", "Wren"),
            Begin(new BitePlace(2), "look, @wren"),
            Begin(new BitePlace(3)),
            Begin(new BitePlace(4))
        );
        comments.Answer(production, answered, "ask @Wren", "Ida", Names);
        var listed = comments.Listed(production, ListedTalks.Mine, "Wren").Select(t => t.First.Id).ToHashSet();
        Assert.Equal([mine, toMe, answered], listed.Order());
        Assert.DoesNotContain(theirs, listed);
    }

    [Fact]
    public void A_production_has_its_own_talks()
    {
        var id = Begin(new BitePlace(3));
        Assert.Null(comments.Thread(other, id));
        Assert.Throws<EditRefusedException>(() => comments.Answer(other, id, "so", "Ida", Names));
        Assert.Throws<EditRefusedException>(() => comments.Settle(other, id, true, "Ida"));
        Assert.Throws<EditRefusedException>(() => comments.TakeAway(other, id, true, "Ida"));
        Assert.Empty(comments.Of(other, new BitePlace(3)));
        Assert.Empty(comments.Counts(other));
    }

    [Fact]
    public void What_others_said_is_new_until_it_was_seen_and_seeing_never_goes_back()
    {
        var first = Begin(new BitePlace(3), "so @Wren");
        Begin(new BitePlace(3), "mine", "Wren");
        Assert.Equal([(first, true)], comments.After(production, 0, "Wren", 10).Select(s => (s.Comment.Id, s.MentionsThem)));
        seen.Seen(production, "Wren", 0, first);
        var mark = seen.Of(production, "Wren");
        Assert.Empty(comments.After(production, mark.CommentId, "Wren", 10));
        seen.Seen(production, "Wren", 0, 0);
        Assert.Equal(first, seen.Of(production, "Wren").CommentId);
        Assert.Equal(0, seen.Of(production, "Ida").CommentId);
    }

    [Fact]
    public void Hostile_texts_are_kept_as_text()
    {
        const string Hostile = "'); DROP TABLE comment; -- <script>alert(1)</script> \u202E@Ida";
        var id = Begin(new BitePlace(3), Hostile);
        Assert.Equal(Hostile, comments.Thread(production, id)!.First.Body);
    }
}
