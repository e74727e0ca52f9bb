using EmberLane.Core.Speech;

namespace EmberLane.Core.Captions;

/// <summary>
/// Makes captions of words: the parting that costs least, by dynamic programming over the words. Lines, the shortest, the longest and the
/// gap hold always; the reading speed, breaks at sense and cuts wherever the talk leaves room.
/// </summary>
public static class CaptionMaker
{
    /// <summary>What stands before the lines of each who speaks where several do in one caption.</summary>
    public const string Dash = "– ";

    private static readonly MediaTime Silence = MediaTime.FromMilliseconds(1_500);

    /// <summary>A word that is shown: as long as the shown text goes, a part of one that is longer than a line.</summary>
    private readonly record struct Shown(string Text, MediaTime In, MediaTime Out, string? Who, int Word, bool IsJoined);

    /// <summary>
    /// The captions of words, which are in the order of their begins, from the begin of what they belong to; <paramref name="cuts"/> are
    /// where the picture is cut there, rising. Throws <see cref="FormatException"/> that names a rule which can not be kept. Grows with
    /// words times the words of a caption.
    /// </summary>
    public static IReadOnlyList<Caption> Make(IReadOnlyList<RecognisedWord> words, CaptionRules rules, IReadOnlyList<MediaTime> cuts) =>
        Make(words, rules, cuts, []);

    /// <summary>
    /// The same with captions that somebody set, in order, none over another: they are of these words and no others, and keep what was set
    /// of them; the rest is made around them.
    /// </summary>
    public static IReadOnlyList<Caption> Make(
        IReadOnlyList<RecognisedWord> words,
        CaptionRules rules,
        IReadOnlyList<MediaTime> cuts,
        IReadOnlyList<SetCaption> set
    )
    {
        var maker = new Making([.. words.SelectMany((w, i) => Parts(w, i, rules.Check()))], rules, cuts, set);
        return maker.Timed(maker.Parted());
    }

    // A word that is longer than a line is broken at the line's end.
    private static IEnumerable<Shown> Parts(RecognisedWord word, int number, CaptionRules rules)
    {
        var text = TypedText.OneLine(word.Text);
        var most = rules.Line - Dash.Length;
        MediaTime from = word.Range.In.FromZero,
            length = MediaTime.Max(word.Range.Out.FromZero - from, MediaTime.Zero);
        for (var at = 0; at < text.Length;)
        {
            var count = Math.Min(most, text.Length - at);
            if (at + count < text.Length && char.IsHighSurrogate(text[at + count - 1]))
            {
                count--;
            }
            yield return new Shown(text.Substring(at, count), Along(at), Along(at + count), word.Voice, number, at > 0);
            at += count;
        }

        MediaTime Along(int characters) => from + new MediaTime((long)((Int128)length.Units * characters / text.Length));
    }

    private sealed class Making(
        IReadOnlyList<Shown> words,
        CaptionRules rules,
        IReadOnlyList<MediaTime> cuts,
        IReadOnlyList<SetCaption> set
    )
    {
        // No caption is shorter, whatever was set.
        private static readonly MediaTime Least = MediaTime.FromMilliseconds(100);

        // Which set caption each word is of.
        private readonly SetCaption?[] setOf = SetOf(words, set);

        private const long Caption = 60,
            Over = 100_000;

        // What parting before each word costs.
        private readonly int[] breaks =
        [
            .. words.Select((w, i) => i == 0 ? 0 : CaptionBreaks.Between(words[i - 1].Text, w.Text, w.In - words[i - 1].Out)),
        ];

        /// <summary>The words of each caption, in the parting that costs least.</summary>
        public List<(int First, int End)> Parted()
        {
            var least = new long[words.Count + 1];
            var begins = new int[words.Count + 1];
            Array.Fill(least, long.MaxValue);
            least[0] = 0;
            for (var end = 1; end <= words.Count; end++)
            {
                if (setOf[end - 1] is { } whole)
                {
                    var begin = end - 1;
                    while (begin > 0 && setOf[begin - 1] == whole)
                    {
                        begin--;
                    }
                    if (end == words.Count || setOf[end] != whole)
                    {
                        (least[end], begins[end]) = (least[begin], begin);
                    }
                    continue;
                }
                // Longer and longer captions that end here, as long as there are lines for them.
                var tried = new Tried();
                for (var first = end - 1; first >= 0 && setOf[first] is null; first--)
                {
                    tried = With(tried, first, end);
                    if (end - first > 1 && !Fits(first, end, tried))
                    {
                        break;
                    }
                    var cost = least[first] + Cost(first, end, tried);
                    if (cost < least[end])
                    {
                        (least[end], begins[end]) = (cost, first);
                    }
                }
            }
            var parts = new List<(int First, int End)>();
            for (var end = words.Count; end > 0; end = begins[end])
            {
                parts.Add((begins[end], end));
            }
            parts.Reverse();
            return parts;
        }

        /// <summary>
        /// When each stands: from its first word, or behind the gap after the one before, to its last word or as long as it takes to read,
        /// as far as the next leaves room.
        /// </summary>
        public List<Caption> Timed(List<(int First, int End)> parts)
        {
            var captions = new List<Caption>(parts.Count);
            foreach (var (i, (first, end)) in parts.Index())
            {
                var own = setOf[first];
                var lines = own?.Lines ?? LinesOf(first, end);
                var from =
                    captions.Count == 0 ? Begin(first)
                    : own?.In is { } begins ? MediaTime.Max(begins, captions[^1].Out)
                    : MediaTime.Max(words[first].In, captions[^1].Out + rules.Gap);
                from = MediaTime.Max(Milliseconds(from), MediaTime.Zero);
                var wanted = MediaTime.Max(LastOut(first, end), from + Reading(lines.Sum(l => l.Shown.Length)));
                if (CutAfter(from + rules.Shortest, words[end - 1].In) is { } cut)
                {
                    wanted = MediaTime.Min(wanted, cut);
                }
                if (i + 1 < parts.Count)
                {
                    wanted = MediaTime.Min(wanted, Begin(parts[i + 1].First) - rules.Gap);
                }
                var until = own?.Out ?? MediaTime.Min(MediaTime.Max(wanted, from + rules.Shortest), from + rules.Longest);
                if (i + 1 < parts.Count && setOf[parts[i + 1].First]?.In is { } next)
                {
                    until = MediaTime.Min(until, next);
                }
                until = MediaTime.Max(until, from + Least);
                captions.Add(new Caption(from, Milliseconds(until), lines, words[first].Word, words[end - 1].Word + 1 - words[first].Word));
            }
            return captions;
        }

        private MediaTime Begin(int first) => setOf[first]?.In ?? words[first].In;

        private static SetCaption?[] SetOf(IReadOnlyList<Shown> words, IReadOnlyList<SetCaption> set)
        {
            var of = new SetCaption?[words.Count];
            var at = 0;
            for (var i = 0; i < of.Length; i++)
            {
                while (at < set.Count && set[at].End <= words[i].Word)
                {
                    at++;
                }
                of[i] = at < set.Count && set[at].First <= words[i].Word ? set[at] : null;
            }
            return of;
        }

        private static MediaTime Milliseconds(MediaTime at) => MediaTime.FromMilliseconds(at.ToMillisecondsRounded());

        private MediaTime Reading(int characters) => new(MediaTime.UnitsPerSecond * characters / rules.Speed);

        private MediaTime LastOut(int first, int end)
        {
            var last = words[first].Out;
            for (var i = first + 1; i < end; i++)
            {
                last = MediaTime.Max(last, words[i].Out);
            }
            return last;
        }

        private MediaTime? CutAfter(MediaTime least, MediaTime lastWord)
        {
            var at = FirstCut(MediaTime.Max(least, lastWord));
            return at < cuts.Count ? cuts[at] : null;
        }

        private int FirstCut(MediaTime after)
        {
            int low = 0,
                high = cuts.Count;
            while (low < high)
            {
                var middle = (low + high) / 2;
                (low, high) = cuts[middle] <= after ? (middle + 1, high) : (low, middle);
            }
            return low;
        }

        /// <summary>What is known of the words from one on: their characters, their last end, what parts them, and who speaks.</summary>
        private readonly record struct Tried(int Characters, MediaTime Last, long Within, bool AreOfSeveral);

        // The same with one word more before them: a silence inside, another person in it, a cut through it.
        private Tried With(Tried behind, int first, int end)
        {
            if (first == end - 1)
            {
                return new Tried(words[first].Text.Length, words[first].Out, 0, false);
            }
            var (word, next) = (words[first], words[first + 1]);
            var isOther = word.Who != next.Who;
            return new Tried(
                behind.Characters + word.Text.Length + (next.IsJoined ? 0 : 1),
                MediaTime.Max(behind.Last, word.Out),
                behind.Within
                    + (next.In - word.Out >= Silence ? 300 : 0)
                    + (isOther ? 120 : 0)
                    + (cuts.Count > 0 && FirstCut(word.In) != FirstCut(next.In) ? 400 : 0),
                behind.AreOfSeveral || isOther
            );
        }

        private long Cost(int first, int end, Tried tried)
        {
            var from = words[first].In;
            var room = end < words.Count ? words[end].In - rules.Gap - from : rules.Longest;
            var cost = Caption + tried.Within;
            if (end < words.Count)
            {
                cost +=
                    words[end].IsJoined ? 200
                    : words[end].Who != words[end - 1].Who ? 0
                    : breaks[end];
            }
            // Too short to be seen, too long, and too fast to be read: by the tenth of a second that lacks.
            cost += Tenths(rules.Shortest - MediaTime.Max(room, MediaTime.Zero)) * 60;
            cost += tried.Last - from > rules.Longest ? Over + (Tenths(tried.Last - from - rules.Longest) * 100) : 0;
            cost += Tenths(Reading(tried.Characters) - MediaTime.Max(room, rules.Shortest)) * 25;
            return cost;
        }

        private static long Tenths(MediaTime lacks) => Math.Max(0, lacks.Units * 10 / MediaTime.UnitsPerSecond);

        // Whether a caption has lines for these words.
        private bool Fits(int first, int end, Tried tried)
        {
            // However they are wrapped, a line has no more than its characters and the blank that it ends in.
            if (tried.Characters > rules.Lines * (rules.Line + 1) || (tried.AreOfSeveral && rules.AreSpeakersApart))
            {
                return false;
            }
            var most = rules.Line - (tried.AreOfSeveral ? Dash.Length : 0);
            if (!tried.AreOfSeveral && tried.Characters <= most)
            {
                return true;
            }
            var count = 0;
            for (var at = first; at < end && count <= rules.Lines; count++)
            {
                var own = at + 1;
                while (own < end && words[own].Who == words[at].Who)
                {
                    own++;
                }
                at = Filled(at, own, most);
            }
            return count <= rules.Lines;
        }

        private bool IsOfSeveral(int first, int end)
        {
            for (var i = first + 1; i < end; i++)
            {
                if (words[i].Who != words[i - 1].Who)
                {
                    return true;
                }
            }
            return false;
        }

        // The lines of a caption that fits, each who speaks from a line of their own.
        private List<CaptionLine> LinesOf(int first, int end)
        {
            var several = IsOfSeveral(first, end);
            var lines = new List<CaptionLine>();
            for (var from = first; from < end;)
            {
                var to = from + 1;
                while (to < end && words[to].Who == words[from].Who)
                {
                    to++;
                }
                var texts = Wrapped(from, to, rules.Line - (several ? Dash.Length : 0));
                lines.AddRange(texts.Select((text, i) => new CaptionLine(words[from].Who, text, several && i == 0)));
                from = to;
            }
            return lines;
        }

        // As few lines as there can be, parted where it costs least and the lines are even.
        private List<string> Wrapped(int first, int end, int most)
        {
            var count = 0;
            for (var at = first; at < end; count++)
            {
                at = Filled(at, end, most);
            }
            var texts = new List<string>(count);
            for (var at = first; count > 0; count--)
            {
                var to = count == 1 ? end : Best(at, end, most, count);
                texts.Add(Text(at, to));
                at = to;
            }
            return texts;
        }

        private int Best(int first, int end, int most, int lines)
        {
            var (best, least) = (Filled(first, end, most), long.MaxValue);
            var all = Length(first, end);
            for (var to = best; to > first; to--)
            {
                var rest = 0;
                for (var at = to; at < end && rest < lines; rest++)
                {
                    at = Filled(at, end, most);
                }
                if (rest >= lines)
                {
                    break;
                }
                var cost =
                    (Math.Abs((Length(first, to) * lines) - all) * 3L)
                    + CaptionBreaks.Between(words[to - 1].Text, to < end ? words[to].Text : "", MediaTime.Zero);
                if (cost < least && to < end)
                {
                    (best, least) = (to, cost);
                }
            }
            return best;
        }

        // Behind the last word that a line has room for; one at least.
        private int Filled(int first, int end, int most)
        {
            var length = words[first].Text.Length;
            var to = first + 1;
            while (to < end && length + Step(to) <= most)
            {
                length += Step(to);
                to++;
            }
            return to;
        }

        private int Step(int word) => words[word].Text.Length + (words[word].IsJoined ? 0 : 1);

        private int Length(int first, int end)
        {
            var length = words[first].Text.Length;
            for (var i = first + 1; i < end; i++)
            {
                length += Step(i);
            }
            return length;
        }

        private string Text(int first, int end)
        {
            var text = new System.Text.StringBuilder(words[first].Text);
            for (var i = first + 1; i < end; i++)
            {
                text.Append(words[i].IsJoined ? "" : " ").Append(words[i].Text);
            }
            return text.ToString();
        }
    }
}
