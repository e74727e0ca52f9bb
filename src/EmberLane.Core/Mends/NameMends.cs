using EmberLane.Core.Import;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Mends;

/// <summary>Proposes the names and terms of a production where something is heard that sounds like them.</summary>
public static class NameMends
{
    /// <summary>So alike must doubtful words be, and so alike words that the recogniser does not doubt.</summary>
    private const double Doubtful = 0.66,
        Surely = 0.84;

    /// <summary>Of as many words as the term has, each must be at least so alike to its own: “the bridge” is no “Tern Bridge”.</summary>
    private const double EachWord = 0.5;

    /// <summary>
    /// In order of the words, none overlapping another, the most alike first taken. Terms are names or expressions of one to five words;
    /// heard words may be one fewer or more, all of one voice. Cost is the different passages of so many words times the terms, most of
    /// which are told apart by their letters alone.
    /// </summary>
    public static IReadOnlyList<SuggestedCorrection> Propose(Transcript transcript, IReadOnlyCollection<string> terms)
    {
        var wanted = terms
            .Select(TypedText.OneLine)
            .Where(t => t.Length > 2)
            .Distinct()
            .Select(t => (Text: t, Words: t.Split(' ').Length, Form: SoundForm.Of(t)))
            .ToList();
        var units = transcript
            .Units()
            .Select(u => new Unit(
                transcript.Said(u),
                transcript.PlaceOf(u[0].Number)!.Value,
                transcript.PlaceOf(u[^1].Number)!.Value,
                transcript.VoiceOf(u[0]),
                u.Any(transcript.IsDoubtful)
            ))
            .ToList();
        var found = new List<(double Alike, SuggestedCorrection Mend)>();
        var taken = new HashSet<TextPlace>();
        for (var length = 1; length <= units.Count && wanted.Any(t => t.Words >= length - 1); length++)
        {
            var fitting = wanted.Where(t => Math.Abs(t.Words - length) <= 1).ToList();
            foreach (var (heard, where) in Passages(transcript, units, length))
            {
                foreach (var term in fitting.Where(t => heard.Form.AtMostLike(t.Form) >= Doubtful))
                {
                    if (heard.Reads(term.Text))
                    {
                        // What stands there as it is written already is not touched, nor a word beside it swallowed.
                        taken.UnionWith(where.SelectMany(p => p.Places));
                    }
                    else if (SoundsLike.Of(heard.Form, term.Form) is >= Doubtful and var alike && heard.IsLikeEachWordOf(term.Text))
                    {
                        found.AddRange(
                            where
                                .Where(p => alike >= (p.IsDoubted ? Doubtful : Surely))
                                .Select(p => (alike, Proposed(heard, p, term.Text, term.Form, alike)))
                        );
                    }
                }
            }
        }
        var chosen = new List<SuggestedCorrection>();
        foreach (var (_, mend) in found.OrderByDescending(f => f.Alike).ThenBy(f => f.Mend.First).ThenBy(f => f.Mend.Last))
        {
            var places = TextPlace.Between(mend.First, mend.Last).ToList();
            if (!places.Any(taken.Contains))
            {
                taken.UnionWith(places);
                chosen.Add(mend);
            }
        }
        return [.. chosen.OrderBy(m => m.First)];
    }

    private static SuggestedCorrection Proposed(Heard heard, Passage passage, string term, SoundForm form, double alike)
    {
        var why =
            heard.Form.Plain == form.Plain
                ? "a name of the production, as it is written"
                : FormattableString.Invariant(
                    $"sounds like {term} ({100 * alike:0} of 100){(passage.IsDoubted ? ", and was doubtful" : "")}"
                );
        return new SuggestedCorrection(
            passage.First,
            passage.Last,
            (passage.FirstNumber, passage.LastNumber),
            heard.Before + term + heard.After,
            why,
            alike >= Surely
        );
    }

    /// <summary>
    /// Where a passage lies: the places and numbers of its first and last word, and whether one of its words is doubtful.
    /// </summary>
    private readonly record struct Passage(TextPlace First, TextPlace Last, WordNumber FirstNumber, WordNumber LastNumber, bool IsDoubted)
    {
        public IEnumerable<TextPlace> Places => TextPlace.Between(First, Last);
    }

    /// <summary>What is said in one or more passages: without what stands around it, and how that sounds.</summary>
    private sealed record Heard(string Before, string Bare, string After, string Words, SoundForm Form)
    {
        public static Heard Of(string said)
        {
            var (before, bare, after) = Parts(said);
            return new Heard(
                before,
                bare,
                after,
                bare.Any(c => c == ' ') ? string.Join(' ', bare.Split(' ').Select(w => Parts(w).Bare)) : bare,
                SoundForm.Of(bare)
            );
        }

        /// <summary>Whether it reads so, but for punctuation around its words.</summary>
        public bool Reads(string text) => Bare == text || Words == text;

        public bool IsLikeEachWordOf(string term)
        {
            string[] own = Words.Split(' '),
                others = term.Split(' ');
            return own.Length != others.Length || own.Zip(others).All(w => SoundsLike.Of(w.First, w.Second) >= EachWord);
        }

        private static (string Before, string Bare, string After) Parts(string said)
        {
            int first = 0,
                end = said.Length;
            while (first < end && !char.IsLetterOrDigit(said[first]))
            {
                first++;
            }
            while (end > first && !char.IsLetterOrDigit(said[end - 1]))
            {
                end--;
            }
            return (said[..first], said[first..end], said[end..]);
        }
    }

    // All passages of so many words that are read one after the other by one voice: nobody changes voice within a name. Those that say the
    // same are looked at once.
    private static IEnumerable<(Heard Heard, List<Passage> Where)> Passages(Transcript transcript, IReadOnlyList<Unit> units, int length)
    {
        var passages = new Dictionary<string, List<Passage>>();
        for (var i = 0; i + length <= units.Count; i++)
        {
            var doubted = units[i].IsDoubted;
            var end = i + 1;
            for (; end < i + length && units[end].First == units[end - 1].Last + 1 && units[end].Voice == units[i].Voice; end++)
            {
                doubted |= units[end].IsDoubted;
            }
            if (end == i + length)
            {
                var said = string.Join(' ', Enumerable.Range(i, length).Select(n => units[n].Text));
                var where = passages.TryGetValue(said, out var others) ? others : passages[said] = [];
                where.Add(
                    new Passage(
                        units[i].First,
                        units[end - 1].Last,
                        transcript.At(units[i].First).Number,
                        transcript.At(units[end - 1].Last).Number,
                        doubted
                    )
                );
            }
        }
        return passages.Select(p => (Heard.Of(p.Key), p.Value)).Where(p => p.Item1.Form.Plain.Length > 0);
    }

    /// <summary>A word as it is read, joined ones as one: the places of its first and last word.</summary>
    private readonly record struct Unit(string Text, TextPlace First, TextPlace Last, int Voice, bool IsDoubted);
}
