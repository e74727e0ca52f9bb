using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Comments;

/// <summary>What is talked of: words, a bite or a card. It is named as it was when the talk began.</summary>
public abstract record CommentPlace;

/// <summary>Words of a sitting's text, with their time, by which they are found again in another text of the sitting.</summary>
public sealed record WordsPlace(long SittingId, long TextId, WordNumber First, WordNumber Last, SittingRange Range) : CommentPlace;

/// <summary>A bite.</summary>
public sealed record BitePlace(long BiteId) : CommentPlace;

/// <summary>A card or another piece of a story.</summary>
public sealed record CardPlace(long StoryId, Guid Card) : CommentPlace;

/// <summary>
/// Something that somebody said of words, a bite or a card; <see cref="Answers"/> names the one that began the talk (null: this one did).
/// One that was taken away by who said it keeps its place, and comes back whole.
/// </summary>
/// <param name="Quote">What it was said of, as it read then.</param>
/// <param name="IsAway">Taken away.</param>
/// <param name="SettledBy">Who settled the talk that this one began; empty while it is open.</param>
public sealed record Comment(
    long Id,
    long? Answers,
    CommentPlace Place,
    string Quote,
    string Who,
    DateTimeOffset At,
    string Body,
    bool IsAway,
    string SettledBy
);

/// <summary>A talk: the comment that began it, and its answers in the order in which they came.</summary>
public sealed record CommentThread(Comment First, IReadOnlyList<Comment> Answers)
{
    /// <summary>Whether somebody said that nothing is left to do.</summary>
    public bool IsSettled => First.SettledBy.Length > 0;

    /// <summary>All of it, the oldest first.</summary>
    public IEnumerable<Comment> All => Answers.Prepend(First);
}
