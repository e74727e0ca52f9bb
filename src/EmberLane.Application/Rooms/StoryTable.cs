using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Seams;
using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>Some of what a card says, by characters of it, from one to another, the second not included.</summary>
public readonly record struct SaidPlace(Guid Card, int At);

/// <summary>
/// Where stories are laid and cut: what a person does by bites and by words becomes edits, and every end that is cut anew is mended inside
/// the quiet there, where the sound is known.
/// </summary>
public sealed class StoryTable(
    Footage footage,
    Store.Transcripts transcripts,
    Store.Bites bites,
    Store.Stories stories,
    Readings readings,
    SeamSounds sounds
)
{
    /// <summary>
    /// Lays bites as cards, in the order given, behind a piece of the story, or at its end; one change. Throws
    /// <see cref="EditRefusedException"/> where the piece is gone or there is nothing to lay.
    /// </summary>
    public StoredStory Lay(StoredStory story, IReadOnlyList<Bite> laid, Guid? behind, string who)
    {
        var at = story.Story.PlaceBehind(behind);
        var edits = laid.Select((b, i) => (StoryEdit)new LayCard(CardOf(b, story.Start.Count.Rate), at + i)).ToList();
        return edits.Count == 0
            ? throw new EditRefusedException("There is no bite to lay.")
            : stories.Apply(story.Id, story.Version, StoryTogether.Of(edits), who);
    }

    /// <summary>
    /// Keeps bites and lays a card of each, its ends mended, behind a piece or at the story's end: with other takes, and lines that are
    /// missing beside it.
    /// </summary>
    public StoredStory KeepAndLay(StoredStory story, IReadOnlyList<LaidTakes> laid, string who, Guid? behind = null) =>
        stories.KeepAndLay(story.Id, bites, laid, who, card => Mended(card, story.Start.Count.Rate), behind);

    /// <summary>A card of a bite, its ends mended.</summary>
    public Card CardOf(Bite bite, FrameRate rate) => Mended(new Card(Guid.NewGuid(), bite.Id, bite.SittingId, bite.Range, null), rate);

    /// <summary>A card with its ends mended.</summary>
    public Card Mended(Card card, FrameRate rate)
    {
        var mended = Mended(card, rate, true, true, new Known());
        return mended == card.Range ? card : card with { Range = mended, Unmended = card.Range };
    }

    /// <summary>
    /// Changes a story by words, with <paramref name="make"/>, and mends each end that is cut anew. Returns the story as it is then.
    /// </summary>
    public StoredStory ByWords(StoredStory story, string who, Func<WordCut, Story, StoryEdit> make) =>
        stories.Apply(story.Id, story.Version, ByWords(story, make), who);

    private StoryEdit ByWords(StoredStory story, Func<WordCut, Story, StoryEdit> make)
    {
        var known = new Known();
        var rate = story.Start.Count.Rate;
        return Mended(story.Story, make(Cut(rate, known), story.Story), rate, known);
    }

    /// <summary>What these words would be laid as elsewhere.</summary>
    public IReadOnlyList<Piece> Copy(StoredStory story, WordsOfStory words) =>
        Cut(story.Start.Count.Rate, new Known()).Copy(story.Story, words);

    private WordCut Cut(FrameRate rate, Known known) => new(card => WordsOf(card, known).Words, rate, Guid.NewGuid);

    /// <summary>
    /// The words that lie from one place of what is said to another. Throws <see cref="EditRefusedException"/> where that is none.
    /// </summary>
    public WordsOfStory WordsAt(StoredStory story, SaidPlace from, SaidPlace to)
    {
        var known = new Known();
        var first = WordsOf(CardIn(story, from.Card), known);
        var last = WordsOf(CardIn(story, to.Card), known);
        var begin = first.Touching(from.At, from.Card == to.Card ? to.At : int.MaxValue);
        var end = last.Touching(from.Card == to.Card ? from.At : 0, to.At);
        return begin is { } b && end is { } e
            ? new WordsOfStory(from.Card, b.First, to.Card, e.Last)
            : throw new EditRefusedException("No word of a card is selected. Select words of the story, or go to a card.");
    }

    /// <summary>
    /// The number of the word of a card that a character belongs to, or the next one; the number of words behind the last.
    /// </summary>
    public int WordAt(StoredStory story, SaidPlace place)
    {
        var words = WordsOf(CardIn(story, place.Card), new Known()).Words;
        return words.TakeWhile(w => w.From + w.Length <= place.At).Count();
    }

    /// <summary>
    /// The production and the sitting of a card, and the number of the word at a character of what it says; null where it says nothing
    /// there.
    /// </summary>
    public (long Production, long Sitting, WordNumber Word)? SourceOf(StoredStory story, SaidPlace place)
    {
        var card = CardIn(story, place.Card);
        var words = WordsOf(card, new Known());
        return words.Touching(place.At, int.MaxValue) is var (first, _) && footage.Sitting(card.SittingId) is { } sitting
            ? (sitting.ProductionId, sitting.Id, words.Words[first].Number)
            : null;
    }

    /// <summary>
    /// The characters of what a card says in which the word lies that is said at a moment of its sitting, or the one before it; null where
    /// it says none.
    /// </summary>
    public (int From, int To)? WordAt(StoredStory story, Guid card, SittingTime at)
    {
        var words = WordsOf(CardIn(story, card), new Known()).Words.TakeWhile((w, i) => i == 0 || w.Range.In <= at).ToList();
        return words.Count == 0 ? null : (words[^1].From, words[^1].From + words[^1].Length);
    }

    /// <summary>Tells what cards say by the text as it is read now, whether they lie in a story or did; each text is read once.</summary>
    public Func<Card, string> Saying()
    {
        var known = new Known();
        return card =>
            bites.Get(card.BiteId) is not { } bite ? "a bite that is gone"
            : bite.Range == card.Range && readings.Of(bite.Id) is { } reading ? reading.Said
            : WordsOf(card, known).Said;
    }

    /// <summary>
    /// Ends of cards moved by so many words of their sittings' texts, back where negative, so that words come back or go; mended, as one
    /// change. Throws where a text has no words there.
    /// </summary>
    public StoredStory StretchByWords(StoredStory story, IReadOnlyList<(Guid Card, BiteEnd End)> ends, int words, string who)
    {
        var known = new Known();
        var edits = ends.Select(e => (StoryEdit)Stretched(CardIn(story, e.Card), e.End, words, known)).ToList();
        return stories.Apply(story.Id, story.Version, Mended(story.Story, StoryTogether.Of(edits), story.Start.Count.Rate, known), who);
    }

    private StretchCard Stretched(Card card, BiteEnd end, int words, Known known)
    {
        var (textId, text) = TextOf(card, known);
        var place = BiteEnds.ByWords(AsBite(card), textId, text, end, words).Range;
        var least = MediaTime.FromMilliseconds(1);
        return new StretchCard(
            card.Id,
            end == BiteEnd.Begin
                ? new SittingRange(place.In, Later(card.Range.Out, place.In + least))
                : new SittingRange(Earlier(card.Range.In, place.Out - least), place.Out)
        );
    }

    /// <summary>
    /// Ends moved by hand, to the unit: the end of one card, the begin of another, or both (rolling). Nothing is mended. Throws where a
    /// card would have nothing left, or would begin before its sitting.
    /// </summary>
    public StoredStory Nudge(StoredStory story, Guid? ends, Guid? begins, MediaTime by, string who)
    {
        var edits = new List<StoryEdit>();
        if (ends is { } one && CardIn(story, one) is var before)
        {
            edits.Add(new StretchCard(one, Checked(before.Range.In, before.Range.Out + by), before.Unmended ?? before.Range));
        }
        if (begins is { } other && CardIn(story, other) is var behind)
        {
            edits.Add(new StretchCard(other, Checked(behind.Range.In + by, behind.Range.Out), behind.Unmended ?? behind.Range));
        }
        return stories.Apply(story.Id, story.Version, StoryTogether.Of(edits), who);

        static SittingRange Checked(SittingTime from, SittingTime to) =>
            from < to && from.FromZero >= MediaTime.Zero
                ? new SittingRange(from, to)
                : throw new EditRefusedException("Nothing would be left of the card, or it would begin before its sitting.");
    }

    /// <summary>Gives ends that were mended or moved by hand back as they were laid. Throws where there are none.</summary>
    public StoredStory AsItWas(StoredStory story, IReadOnlyList<Guid> cards, string who)
    {
        var edits = cards
            .Select(id => CardIn(story, id))
            .Where(c => c.Unmended is not null)
            .Select(c => (StoryEdit)new StretchCard(c.Id, c.Unmended!.Value))
            .ToList();
        return edits.Count == 0
            ? throw new EditRefusedException("These ends are as they were laid.")
            : stories.Apply(story.Id, story.Version, StoryTogether.Of(edits), who);
    }

    /// <summary>Mends the end of one card and the begin of another. Throws where there is nothing to gain.</summary>
    public StoredStory Mend(StoredStory story, Guid? ends, Guid? begins, string who)
    {
        var rate = story.Start.Count.Rate;
        var known = new Known();
        var edits = new List<StoryEdit>();
        foreach (var (id, isEnd) in new[] { (ends, true), (begins, false) })
        {
            if (
                id is { } card
                && CardIn(story, card) is var own
                && Mended(own, rate, !isEnd, isEnd, known) is var range
                && range != own.Range
            )
            {
                edits.Add(new StretchCard(card, range, own.Unmended ?? own.Range));
            }
        }
        return edits.Count == 0
            ? throw new EditRefusedException("There is no better place near by: move the ends by hand, or choose other words.")
            : stories.Apply(story.Id, story.Version, StoryTogether.Of(edits), who);
    }

    /// <summary>
    /// Mends every end of every card that can be, as one change; an end where two cards go on into each other stays. Throws where there is
    /// nothing to gain.
    /// </summary>
    public StoredStory MendAll(StoredStory story, string who)
    {
        var known = new Known();
        var cards = story.Story.Cards;
        var edits = new List<StoryEdit>();
        for (var i = 0; i < cards.Count; i++)
        {
            var (begins, ends) = AreCut(cards, i);
            if (Mended(cards[i], story.Start.Count.Rate, begins, ends, known) is var range && range != cards[i].Range)
            {
                edits.Add(new StretchCard(cards[i].Id, range, cards[i].Unmended ?? cards[i].Range));
            }
        }
        return edits.Count == 0
            ? throw new EditRefusedException("There is no better place near by for any of them: look closer at each.")
            : stories.Apply(story.Id, story.Version, StoryTogether.Of(edits), who);
    }

    // Where two cards go on into each other nothing is cut.
    private static (bool Begins, bool Ends) AreCut(IReadOnlyList<Card> cards, int i)
    {
        Card card = cards[i];
        return (
            !(i > 0 && cards[i - 1].SittingId == card.SittingId && cards[i - 1].Range.Out == card.Range.In),
            !(i + 1 < cards.Count && cards[i + 1].SittingId == card.SittingId && cards[i + 1].Range.In == card.Range.Out)
        );
    }

    /// <summary>The card of this id. Throws where it is not in the story.</summary>
    public static Card CardIn(StoredStory story, Guid id) =>
        story.Story.Pieces.FirstOrDefault(p => p.Id == id) as Card
        ?? throw new EditRefusedException("That card is no longer in the story.");

    // The edit, and for each end that it cuts anew where it is cut best.
    private StoryEdit Mended(Story before, StoryEdit edit, FrameRate rate, Known known)
    {
        var (after, _) = edit.Apply(before);
        var were = before.Cards.ToDictionary(c => c.Id);
        var edits = new List<StoryEdit>();
        var cards = after.Cards;
        for (var i = 0; i < cards.Count; i++)
        {
            var card = cards[i];
            var was = were.GetValueOrDefault(card.Id);
            if (was?.Range == card.Range || (was is null && card.Unmended is not null))
            {
                continue;
            }
            var (begins, ends) = AreCut(cards, i);
            begins &= was?.Range.In != card.Range.In;
            ends &= was?.Range.Out != card.Range.Out;
            if (Mended(card, rate, begins, ends, known) is var range && range != card.Range)
            {
                edits.Add(new StretchCard(card.Id, range, card.Range));
            }
        }
        return edits.Count == 0 ? edit : new StoryTogether([.. edit is StoryTogether many ? many.Edits : [edit], .. edits]);
    }

    private SittingRange Mended(Card card, FrameRate rate, bool begins, bool ends, Known known)
    {
        if (!(begins || ends) || SoundOf(card, known) is not { } sound || FindText(card, known) is not var (_, text))
        {
            return card.Range;
        }
        var mended = CardEnds.Mended(sound, card.Range, CardWords.EdgesOf(text, card.Range), rate);
        SittingTime from = begins ? mended.In : card.Range.In,
            to = ends ? mended.Out : card.Range.Out;
        return from < to ? new SittingRange(from, to) : card.Range;
    }

    private CardWords WordsOf(Card card, Known known)
    {
        var (textId, text) = TextOf(card, known);
        var bite = bites.Get(card.BiteId) ?? throw new EditRefusedException("The bite of this card is not kept any more.");
        return CardWords.Of(bite, text, bite.TranscriptId == textId, card.Range);
    }

    private (long Id, Transcript Text) TextOf(Card card, Known known) =>
        FindText(card, known) ?? throw new EditRefusedException("The sitting of this card has no text.");

    private (long Id, Transcript Text)? FindText(Card card, Known known)
    {
        if (!known.Texts.TryGetValue(card.SittingId, out var text))
        {
            var id = footage.Sitting(card.SittingId)?.TranscriptId ?? bites.Get(card.BiteId)?.TranscriptId;
            known.Texts[card.SittingId] = text = id is { } found ? (found, transcripts.Get(found)) : null;
        }
        return text;
    }

    private SittingSeamSound? SoundOf(Card card, Known known)
    {
        if (!known.Sounds.TryGetValue(card.SittingId, out var sound))
        {
            known.Sounds[card.SittingId] = sound = sounds.Of(card.SittingId);
        }
        return sound;
    }

    // Texts and sounds by sitting, looked up once for a change.
    private sealed class Known
    {
        public Dictionary<long, (long Id, Transcript Text)?> Texts { get; } = [];

        public Dictionary<long, SittingSeamSound?> Sounds { get; } = [];
    }

    // A card as a stretch of words, whichever bite it came from.
    private static Bite AsBite(Card card) => Bite.Of(card.SittingId, 0, default, default, card.Range, "", "", "");

    private static SittingTime Later(SittingTime one, SittingTime other) => one > other ? one : other;

    private static SittingTime Earlier(SittingTime one, SittingTime other) => one < other ? one : other;
}
