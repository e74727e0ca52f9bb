using System.Globalization;
using EmberLane.Core.Captions;
using EmberLane.Core.Seams;
using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Handoff;

/// <summary>
/// Looks at what is written before it leaves: each list is read back, and captions, joins and the media around cuts are told of.
/// </summary>
public static class HandoffChecks
{
    private const int Named = 4,
        Sharp = 1_280;

    private static readonly MediaTime Handle = MediaTime.FromMilliseconds(500);

    /// <summary>What was found, what needs a look first. Linear in the story.</summary>
    public static IReadOnlyList<Check> Of(HandedStory story, CaptionRules rules)
    {
        var checks = new List<Check> { ReadBack(story) };
        checks.AddRange(Captions(story, story.Captions(rules), rules));
        checks.AddRange(Stale(story, rules, ""));
        checks.AddRange(story.Setup.Languages.SelectMany(l => Translated(story, rules, l).Concat(Stale(story, rules, l))));
        checks.AddRange(Joins(story));
        checks.AddRange(Handles(story));
        checks.AddRange(Dissolves(story));
        checks.AddRange(Enlarged(story));
        if (story.Events.Events.Select(e => e.Number).Distinct().Count() is var events && events > EventList.MostEvents)
        {
            checks.Add(
                new Check(
                    true,
                    "The decision list is in several files",
                    Say($"{events} events; each file has {EventList.MostEvents} at most.")
                )
            );
        }
        return [.. checks.OrderBy(c => c.Fine)];
    }

    private static Check ReadBack(HandedStory story)
    {
        var rate = story.Start.Count.Rate;
        var lists = story.Further.Select(f => f.List).Prepend(story.Events).ToList();
        var read = lists.SelectMany(EdlWriter.Write).SelectMany(list => EdlReader.Read(list, rate).Events).ToList();
        if (read.Zip(lists.SelectMany(l => l.Events)).FirstOrDefault(p => !IsSame(p.First, p.Second)) is { First: { } odd })
        {
            return new Check(false, "The decision list is not read back as it was written", $"The first difference is at {odd.RecordIn}.");
        }
        var timeline = OtioReader.Read(OtioWriter.Write(story.Timeline, m => m.FileName), rate);
        var apart = timeline
            .Tracks.Zip(story.Timeline.Tracks)
            .SelectMany(t => t.First.Placed().Zip(t.Second.Placed()))
            .Where(p => rate.NearestFrame(p.First.Range.In.FromZero) != rate.NearestFrame(p.Second.Range.In.FromZero))
            .Select(p => story.Start.Later(rate.NearestFrame(p.Second.Range.In.FromZero)).ToString())
            .FirstOrDefault();
        return apart is not null
            ? new Check(false, "The timeline is not read back as it was written", $"The first difference is at {apart}.")
            : new Check(true, "Both lists were written and read back", Say($"{read.Count} lines, zero frames apart"));
    }

    private static bool IsSame(ListedEvent one, ListedEvent other) =>
        (one.Reel, one.Track, one.SourceIn, one.SourceOut, one.RecordIn, one.RecordOut)
        == (other.Reel, other.Track, other.SourceIn, other.SourceOut, other.RecordIn, other.RecordOut);

    private static IEnumerable<Check> Captions(HandedStory story, IReadOnlyList<Caption> captions, CaptionRules rules)
    {
        var fast = captions
            .Where(c => (Int128)c.Characters * MediaTime.UnitsPerSecond > (Int128)rules.Speed * (c.Out - c.In).Units)
            .Select(c => At(story, c.In))
            .ToList();
        yield return fast.Count > 0
            ? new Check(
                false,
                Say($"{fast.Count} of {captions.Count} captions are faster than {rules.Speed} characters a second"),
                $"People talk faster there than that: {Few(fast)}. Shorten them under Captions, or allow more characters a second."
            )
            {
                Cure = Cure.Captions,
            }
            : new Check(true, Say($"{captions.Count} captions keep their rules"), Say($"{rules.Speed} characters a second at most"));
    }

    private static IEnumerable<Check> Translated(HandedStory story, CaptionRules rules, string language)
    {
        var all = story.Track(rules, language);
        var missing = all.Where(c => c.Name is null).Select(c => At(story, c.Caption.In)).ToList();
        yield return missing.Count > 0
            ? new Check(
                false,
                Say($"{missing.Count} of {all.Count} captions have no words in {language}"),
                $"{Few(missing)}. They are left out of its files. Translate them under Captions, or bring the translator's table in again."
            )
            {
                Cure = Cure.Captions,
            }
            : new Check(true, Say($"{all.Count} captions in {language}"), "All are translated");
    }

    private static IEnumerable<Check> Stale(HandedStory story, CaptionRules rules, string language)
    {
        var stale = (language.Length == 0 ? story.Track(rules) : story.Track(rules, language))
            .Where(c => c.IsStale)
            .Select(c => At(story, c.Caption.In))
            .ToList();
        if (stale.Count > 0)
        {
            yield return new Check(
                false,
                Say($"{stale.Count} captions{(language.Length > 0 ? " in " + language : "")} are of words that were changed since"),
                $"{Few(stale)}. Look at them under Captions."
            )
            {
                Cure = Cure.Captions,
            };
        }
    }

    /// <summary>Whether the cuts of a story's cards clip words, by its judged seams.</summary>
    public static Check Words(IReadOnlyList<StorySeam> seams, IReadOnlyList<Card> cards)
    {
        var numbers = cards.Index().ToDictionary(c => c.Item.Id, c => c.Index + 1);
        var clipped = seams
            .SelectMany(s =>
                ((SeamEdge? Edge, Guid Card, string Where)[])[(s.End, s.Card, "at its end"), (s.Begin, s.Next, "at its begin")]
            )
            .Where(e => e.Edge is { Before.Clips: true })
            .ToList();
        var places = clipped.Select(c => Say($"card {numbers[c.Card]} {c.Where}")).ToList();
        return clipped.Count == 0 && seams.All(s => s is { End: null, Begin: null })
                ? new Check(true, "No cut was listened to", "The sound of the sittings is not measured yet")
            : clipped.Count == 0 ? new Check(true, "No cut clips a word", Say($"{seams.Count} seams were listened to"))
            : new Check(
                false,
                Say($"{clipped.Count} cuts clip a word"),
                clipped.Any(c => c.Edge is { After.Clips: false })
                    ? $"{Few(places)}. There is silence beside it where the cut can go."
                    : $"{Few(places)}. There is no silence beside it: choose another place in Story."
            )
            {
                Cure = clipped.Any(c => c.Edge is { After.Clips: false }) ? Cure.MendSeams : Cure.Story,
            };
    }

    // One angle that meets itself, not going on: a jump that is seen.
    private static IEnumerable<Check> Joins(HandedStory story)
    {
        var shown = story.Timeline.Of(TrackKind.Picture).First().Placed().ToList();
        var covered = story
            .Timeline.Of(TrackKind.Picture)
            .Where(t => t.Use == TrackUse.Over)
            .SelectMany(t => t.Placed())
            .Where(p => p.Item is Clip)
            .Select(p => p.Range)
            .ToList();
        var jumps = shown
            .Zip(shown.Skip(1))
            .Where(p =>
                p is { First.Item: Clip one, Second.Item: Clip next }
                // In an editor's master it is not known which angle is seen.
                && one.Media.SourceId is > 0
                && one.Media.SourceId == next.Media.SourceId
                && one.Range.Out != next.Range.In
                && one.Framed?.To == next.Framed?.From
                && !covered.Any(c => c.In < p.Second.Range.In && p.Second.Range.In < c.Out)
            )
            .Select(p => story.Start.Later(story.Start.Count.Rate.NearestFrame(p.Second.Range.In.FromZero)).ToString())
            .ToList();
        if (jumps.Count > 0)
        {
            yield return new Check(
                false,
                Say($"{jumps.Count} joins show the same angle on both sides"),
                $"{Few(jumps)}. Choose another angle in Story, have the camera plan followed, or lay a picture over them."
            )
            {
                Cure = Cure.Story,
            };
        }
    }

    // What is left of an enlarged picture has fewer pixels than one is shown in.
    private static IEnumerable<Check> Enlarged(HandedStory story)
    {
        var closer = story
            .Timeline.Of(TrackKind.Picture)
            .Take(1)
            .SelectMany(t => t.Placed())
            .Where(p => p.Item is Clip { Framed: not null, Media.Facts.Picture: not null })
            .Select(p => (p.Range, Framed: ((Clip)p.Item).Framed!, ((Clip)p.Item).Media.Facts!.Picture))
            .ToList();
        var few = closer
            .Where(c => (long)c.Picture!.Width * c.Framed.To.Size / Crop.Whole < Sharp)
            .Select(c => At(story, c.Range.In.FromZero))
            .ToList();
        if (few.Count > 0)
        {
            yield return new Check(
                false,
                Say($"{few.Count} punch-ins have fewer than {Sharp} pixels across"),
                $"{Few(few)}. They will be soft in a large picture: enlarge less under Cameras, or have the editor frame them."
            );
        }
        else if (closer.Count > 0)
        {
            yield return new Check(true, Say($"{closer.Count} punch-ins"), Say($"{Sharp} pixels across at least are left of each"));
        }
    }

    private static IEnumerable<Check> Dissolves(HandedStory story)
    {
        var rate = story.Start.Count.Rate;
        var laid = LaidDissolve.Of(story.Timeline);
        var wished = story.Pieces.Where(p => p is { Piece.ComesIn: not null, Frames: > 0 }).ToList();
        var less = wished
            .Where(p => rate.NearestFrame(laid.GetValueOrDefault(p.First)?.Seen ?? MediaTime.Zero) < Frames(p.Piece.ComesIn!))
            .Select(p => story.Start.Later(p.First).ToString())
            .ToList();
        if (less.Count > 0)
        {
            yield return new Check(
                false,
                Say($"{Many(less.Count, "dissolve is", "dissolves are")} shorter than wished"),
                $"{Few(less)}: the file before has no picture beyond its cut, words off the record come there, what comes in is shorter "
                    + "itself, or nothing lies before it."
            )
            {
                Cure = Cure.Story,
            };
        }
        else if (wished.Count > 0)
        {
            yield return new Check(true, Many(wished.Count, "dissolve", "dissolves"), "the files have what each takes from");
        }

        long Frames(Stories.Dissolve dissolve) => Math.Max(1, rate.NearestFrame(dissolve.Lasting));
    }

    private static string Many(int count, string one, string many) => Say($"{count} {(count == 1 ? one : many)}");

    private static IEnumerable<Check> Handles(HandedStory story)
    {
        var tight = story
            .Timeline.Of(TrackKind.Picture)
            .First()
            .Placed()
            .Where(p =>
                p.Item is Clip { Media.Facts: { } facts } clip
                && (clip.Range.In.FromZero < Handle || facts.Duration - clip.Range.Out.FromZero < Handle)
            )
            .Select(p => story.Start.Later(story.Start.Count.Rate.NearestFrame(p.Range.In.FromZero)).ToString())
            .ToList();
        if (tight.Count > 0)
        {
            yield return new Check(
                false,
                Say($"{tight.Count} cuts have less than half a second of picture beyond them"),
                $"{Few(tight)}: the camera begins or stops there, so that a dissolve has nothing to take from."
            );
        }
    }

    private static string At(HandedStory story, MediaTime at) => story.Start.Later(story.Start.Count.Rate.FrameAt(at)).ToString();

    private static string Few(List<string> places) =>
        string.Join(", ", places.Take(Named)) + (places.Count > Named ? Say($" and {places.Count - Named} more") : "");

    private static string Say(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
