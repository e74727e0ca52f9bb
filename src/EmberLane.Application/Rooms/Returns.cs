using System.Security.Cryptography;
using System.Text;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Handoff;
using EmberLane.Core.Handoff.Back;
using EmberLane.Core.Marks;
using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>
/// A list that came back, compared with the version of the story that left: under which key its text is kept, what became of each piece,
/// and the reels that are of no known source.
/// </summary>
public sealed record ReturnedList(
    string Key,
    long Version,
    Core.Stories.Story Was,
    IReadOnlyList<ComparedPiece> Lines,
    IReadOnlyList<string> Unknown
);

/// <summary>Reads lists that editors send back, shows what they changed, and takes it over.</summary>
public sealed class Returns(
    Footage footage,
    Desk desk,
    Store.Stories stories,
    Store.Bites bites,
    Store.Transcripts transcripts,
    Options options
)
{
    /// <summary>So many of the lists that came back are kept for taking over.</summary>
    private const int Kept = 40;

    private string Folder => Path.Combine(options.Data, "cache", "returned");

    /// <summary>Keeps the text of a list until it is taken over, and gives its key.</summary>
    public string Keep(string text)
    {
        var bytes = Encoding.UTF8.GetBytes(text);
        var key = Convert.ToHexStringLower(SHA256.HashData(bytes));
        Directory.CreateDirectory(Folder);
        var part = Path.Combine(Folder, $"{key}.{Guid.NewGuid():N}.part");
        File.WriteAllBytes(part, bytes);
        File.Move(part, Path.Combine(Folder, key), overwrite: true);
        foreach (var old in new DirectoryInfo(Folder).GetFiles().OrderByDescending(f => f.LastWriteTimeUtc).Skip(Kept))
        {
            old.Delete();
        }
        return key;
    }

    /// <summary>
    /// What a list that came back changes in a story as it was at a version. Throws <see cref="FormatException"/> for one that can not be
    /// read, <see cref="EditRefusedException"/> where the list or the version is not there.
    /// </summary>
    public ReturnedList Compare(StoredStory story, string key, long version)
    {
        var text = TextOf(key);
        var was = version == story.Version ? story.Story : stories.At(story.Id, version);
        if (was is null || was.HasNoCards)
        {
            throw new EditRefusedException($"Version {version} of the story is not there, or has no card of a bite.");
        }
        var left = story with { Story = was with { Title = story.Title, Start = was.Start } };
        var rate = was.Start.Count.Rate;
        var form = text.AsSpan().TrimStart().StartsWith("{") ? BackForm.Otio : BackForm.Edl;
        var sources = new BackSources(desk.FilesOfProductions(left));
        var timeline = desk.TimelineOfVersion(left);
        var ours =
            form == BackForm.Otio
                ? OtioReader.Read(OtioWriter.Write(timeline, m => m.FileName), rate)
                : EdlEvents.Timeline(EdlReader.Read(string.Concat(EdlWriter.Write(EdlEvents.Of(timeline))), rate));
        var returned = WayBack.Of(
            BackList.Of(Read(text, form, rate), form, sources),
            BackList.Of(ours, form, sources),
            was,
            desk.CutOf(story.ProductionId, was),
            Guid.NewGuid
        );
        return new ReturnedList(key, version, was, StoryCompare.Of(was, was with { Pieces = [.. returned.Pieces] }), returned.Unknown);
    }

    /// <summary>
    /// Takes a list over, all lines of the comparison or those of these numbers from 0, as one change: the story becomes what left with
    /// these changes, and cards that are new are kept as bites. Throws as <see cref="Compare"/> does.
    /// </summary>
    public StoredStory TakeOver(StoredStory story, string key, long version, IReadOnlySet<int>? lines, string who)
    {
        var compared = Compare(story, key, version);
        var pieces = ChosenPieces.Of(compared.Lines, lines);
        var fresh = pieces.OfType<Card>().Where(c => c.BiteId == WayBack.NoBite).ToList();
        var kept = fresh.Select(c => BiteOf(c, who)).ToList();
        var withText = kept.OfType<Bite>().ToList();
        return stories.TakeOver(
            story.Id,
            bites,
            withText,
            ids =>
            {
                var given = new Queue<long>(ids);
                var byCard = fresh.Zip(kept).ToDictionary(f => f.First.Id, f => f.Second is null ? (long?)null : given.Dequeue());
                return
                [
                    .. pieces.Select(p =>
                        p is not Card card || card.BiteId != WayBack.NoBite ? p
                        : byCard[card.Id] is { } id ? card with { BiteId = id }
                        : new Space(card.Id, card.Range.Length, $"{footage.Sitting(card.SittingId)?.Title} at {card.Range.In}")
                    ),
                ];
            },
            who
        );
    }

    // The words of a stretch; null where its sitting has none there.
    private Bite? BiteOf(Card card, string who)
    {
        if (footage.Sitting(card.SittingId)?.TranscriptId is not { } id)
        {
            return null;
        }
        var text = transcripts.Get(id);
        return MarkPlace.In(text, card.Range) is var (first, last)
            ? Bite.Of(card.SittingId, id, text.At(first).Number, text.At(last).Number, card.Range, "", "from a list that came back", who)
            : null;
    }

    private string TextOf(string key) =>
        key.Length == 64 && key.All(char.IsAsciiHexDigitLower) && File.Exists(Path.Combine(Folder, key))
            ? File.ReadAllText(Path.Combine(Folder, key))
            : throw new EditRefusedException("That list is not kept any more. Bring it in again.");

    private static EditedTimeline Read(string text, BackForm form, FrameRate rate)
    {
        var read = form == BackForm.Otio ? OtioReader.Read(text, rate) : EdlEvents.Timeline(EdlReader.Read(text, rate));
        return read.Tracks.Any(t => t.Items.Count > 0)
            ? read
            : throw new FormatException(
                "There is no event in it. A decision list (.edl) has lines as 001  A001 V  C and four times; a timeline (.otio) has tracks."
            );
    }
}
