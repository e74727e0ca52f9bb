using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Marks;

/// <summary>
/// The marks of one text of a sitting in another text of it: they keep their time, their owner and their note, and find their words by the
/// time.
/// </summary>
public static class CarriedMarks
{
    /// <summary>
    /// The edit that adds the marks of <paramref name="from"/> to <paramref name="to"/>; null when it has them already. A word is set aside
    /// when its middle lies in what is aside in the other text; a flag stands before the word that is said at its moment, or the first one
    /// after it, or the last of all, unless a flag stands there. Marks that came from there before do not go back, since the words of two
    /// texts do not begin and end together: a stretch would grow and a flag be there twice. Words of both are in order of their starts.
    /// Cost grows with the words and the marks, and with their logarithms.
    /// </summary>
    public static TranscriptEdit? Of(Transcript from, Transcript to)
    {
        var marks = new List<Mark>();
        foreach (var kind in MarkKind.With(MarkUse.SetsAside))
        {
            Carry(kind, from, to, marks);
        }
        var brought = Flags(to, from).Select(f => (f.Place, f.Mark.Kind, f.Mark.Note)).ToHashSet();
        var flagged = Flags(to).Select(f => f.Place).ToHashSet();
        var wanted = Flags(from, to, f => !brought.Contains((f.Place, f.Mark.Kind, f.Mark.Note)));
        foreach (var (place, mark) in wanted.Where(f => !flagged.Contains(f.Place)))
        {
            marks.Add(Copy(mark, to, place, place, marks.Count));
        }
        CarryByTime(from, to, marks);
        // A layer is on or off for the sitting, by whatever text it is read.
        TranscriptEdit[] edits =
        [
            .. marks.Select(m => new PutMark(m)),
            .. from.Layers.Off.Except(to.Layers.Off).Select(l => new SwitchLayer(l, true)),
            .. to.Layers.Off.Except(from.Layers.Off).Select(l => new SwitchLayer(l, false)),
        ];
        return edits.Length == 0 ? null : new Together(edits);
    }

    /// <summary>Runs of words of a kind, each from its first word's start to its last one's end. Linear in the words.</summary>
    internal static IEnumerable<SittingRange> Runs(Transcript text, Func<TextPlace, bool> isIn) =>
        Runs(TextPlace.First, text.Last, isIn).Select(r => text.RangeOf(r.First, r.Last));

    // What lies over time as it is: the words only say where that is.
    private static void CarryByTime(Transcript from, Transcript to, List<Mark> marks)
    {
        var there = to.Layers.Marks.Values.Select(m => (m.Kind, m.Range)).ToHashSet();
        foreach (var mark in from.Layers.Marks.Values.Where(m => m.Kind.Use is MarkUse.SetsTimeAside or MarkUse.Spares or MarkUse.Parts))
        {
            if (there.Add((mark.Kind, mark.Range)) && MarkPlace.Of(mark, to, isOwn: false) is var (first, last))
            {
                marks.Add(mark with { Id = to.Layers.NextMark + marks.Count, First = to.At(first).Number, Last = to.At(last).Number });
            }
        }
    }

    // What is set aside by a kind and was not brought from the other text, on the words whose middles lie there and that are not aside by
    // that kind already.
    private static void Carry(MarkKind kind, Transcript from, Transcript to, List<Mark> marks)
    {
        var isAside = Covered(kind, to);
        var own = Runs(to, p => isAside[p.Value]).ToList();
        var (inFrom, inTo) = (new MiddleSearch(from), new MiddleSearch(to));
        var brought = new bool[from.Words.Count];
        foreach (var place in own.SelectMany(inFrom.In))
        {
            brought[place.Value] = true;
        }
        foreach (var mark in from.Layers.Marks.Values.Where(m => m.Kind == kind))
        {
            if (MarkPlace.Of(mark, from) is not { } held)
            {
                continue;
            }
            var places = Runs(held.First, held.Last, p => !brought[p.Value])
                .SelectMany(r => inTo.In(from.RangeOf(r.First, r.Last)))
                .Where(p => !isAside[p.Value])
                .Distinct()
                .Order()
                .ToList();
            for (var (first, i) = (0, 1); i <= places.Count; i++)
            {
                if (i == places.Count || places[i] != places[i - 1] + 1)
                {
                    marks.Add(Copy(mark, to, places[first], places[i - 1], marks.Count));
                    first = i;
                }
            }
            places.ForEach(p => isAside[p.Value] = true);
        }
    }

    private static bool[] Covered(MarkKind kind, Transcript text)
    {
        var covered = new bool[text.Words.Count];
        foreach (var mark in text.Layers.Marks.Values.Where(m => m.Kind == kind))
        {
            if (MarkPlace.Of(mark, text) is { } place)
            {
                Array.Fill(covered, true, place.First.Value, TextPlace.Count(place.First, place.Last));
            }
        }
        return covered;
    }

    private static Mark Copy(Mark mark, Transcript to, TextPlace first, TextPlace last, int later) =>
        Marking.Over(to, mark.Kind, first, last, new Signed(mark.Owner, mark.When), mark.Note, later);

    private static IEnumerable<(TextPlace Place, Mark Mark)> Flags(Transcript text) =>
        text
            .Layers.Marks.Values.Where(m => m.StandsBefore)
            .Select(m => (MarkPlace.Of(m, text), m))
            .Where(f => f.Item1 is not null)
            .Select(f => (f.Item1!.Value.First, f.m));

    // The flags of one text, each with the place of the other text's word that it stands before there.
    private static IEnumerable<(TextPlace Place, Mark Mark)> Flags(
        Transcript from,
        Transcript to,
        Func<(TextPlace Place, Mark Mark), bool>? wanted = null
    ) =>
        from flag in Flags(@from)
        where wanted is null || wanted(flag)
        let place = MarkPlace.At(to, @from.At(flag.Place).Range.In)
        where place is not null
        select (place.Value, flag.Mark);

    private static IEnumerable<(TextPlace First, TextPlace Last)> Runs(TextPlace from, TextPlace to, Func<TextPlace, bool> isIn)
    {
        TextPlace? open = null;
        for (var place = from; place <= to + 1; place++)
        {
            var inside = place <= to && isIn(place);
            if (inside)
            {
                open ??= place;
            }
            else if (open is { } first)
            {
                yield return (first, place - 1);
                open = null;
            }
        }
    }

    /// <summary>Finds the words whose middles lie in a stretch without going through all of them.</summary>
    private sealed class MiddleSearch(Transcript text)
    {
        private readonly SittingTime[] starts = [.. text.Words.Select(w => w.Range.In)];
        private readonly MediaTime longest = text.Words.Count == 0 ? MediaTime.Zero : text.Words.Max(w => w.Range.Length);

        public IEnumerable<TextPlace> In(SittingRange stretch)
        {
            for (var i = FirstFrom(stretch.In - longest); i < starts.Length && starts[i] < stretch.Out; i++)
            {
                if (stretch.Holds(text.Words[i].Middle))
                {
                    yield return new TextPlace(i);
                }
            }
        }

        private int FirstFrom(SittingTime moment)
        {
            var (low, high) = (0, starts.Length);
            while (low < high)
            {
                var middle = (low + high) / 2;
                (low, high) = starts[middle] < moment ? (middle + 1, high) : (low, middle);
            }
            return low;
        }
    }
}
