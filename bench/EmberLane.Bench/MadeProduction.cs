using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Core.Bites;
using EmberLane.Core.Media;
using EmberLane.Core.Pictures;
using EmberLane.Core.Stories;
using EmberLane.Core.Sync;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Bench;

/// <summary>
/// A production of many sittings of two hours, made through the application's own services: five sources each (a recorder and four cameras)
/// that were never filmed, a text, and bites and cards over all of it. Its files hold a line each, and what would be made from them is a
/// stand-in of the right place and length, so that the rooms show it as they would show footage.
/// </summary>
internal static class MadeProduction
{
    public const int WordsOfSitting = 15_000,
        Bites = 1_000,
        Cards = 300;

    private const int WordMilliseconds = 480,
        Cameras = 4,
        PeaksASecond = 100,
        Seed = 12;

    private static readonly string[] Themes =
    [
        "the ferry",
        "school",
        "winter",
        "the bridge",
        "work",
        "leaving",
        "coming back",
        "the flood",
        "letters",
        "money",
        "the choir",
        "silence",
    ];

    private static readonly string[] Vocabulary =
    [
        .. (
            "the ferry was late again and nobody minded crossing in the rain because my father knew every stone of that "
            + "river and he would tell us which ones had moved since spring we carried the children over first then the bread "
            + "then the post and when the water rose you could hear it at night like people talking in the next room I never "
            + "asked him whether he was afraid I think he was but he went"
        ).Split(' '),
    ];

    private static readonly MediaTime Length = MediaTime.FromMilliseconds((long)WordsOfSitting * WordMilliseconds);

    /// <summary>Makes it and returns the ids of the production and of its sittings.</summary>
    public static async Task<(long Production, IReadOnlyList<long> Sittings)> MakeAsync(
        IServiceProvider services,
        string data,
        int sittings,
        int cards = Cards
    )
    {
        var random = new Random(Seed);
        var production = services.GetRequiredService<Store.Footage>().AddProduction(FormattableString.Invariant($"{sittings} sittings"));
        var ids = new List<long>();
        for (var n = 0; n < sittings; n++)
        {
            ids.Add(await SittingAsync(services, data, production, n, random));
        }
        var kept = Keep(services, ids, random);
        Lay(services, production, kept, cards);
        return (production, ids);
    }

    private static async Task<long> SittingAsync(IServiceProvider services, string data, long production, int n, Random random)
    {
        var footage = services.GetRequiredService<Store.Footage>();
        var sources = Enumerable.Range(0, Cameras + 1).Select(k => Source(data, n, k)).ToList();
        var sitting = footage.BringIn(production, FormattableString.Invariant($"Conversation {n + 1:000}"), sources)!.Value;
        foreach (var (source, k) in footage.SourcesOf(sitting).Select((s, k) => (s, k)).Skip(1))
        {
            footage.Place(
                source.Id,
                Placement.BySound(
                    new ClockMap(new SittingTime(MediaTime.FromMilliseconds(1_370L * k)), 900 * k),
                    "same sound at 28 of 28 places, sure: by chance 1 in 10⁴⁰"
                )
            );
        }
        await StandInsAsync(services, footage.SourcesOf(sitting), footage.Sitting(sitting)!);
        var words = Enumerable
            .Range(0, WordsOfSitting)
            .Select(i => new RecordWord(
                new(i),
                Vocabulary[random.Next(Vocabulary.Length)],
                new SittingRange(At(i), At(i) + MediaTime.FromMilliseconds(WordMilliseconds - 70)),
                new(random.Next(200, 1000)),
                i / 41 % 4
            ))
            .ToList();
        var transcripts = services.GetRequiredService<Store.Transcripts>();
        var id = transcripts.Add(
            sitting,
            "made",
            "en",
            words,
            new Dictionary<int, string>
            {
                [0] = "Maren Oakhurst",
                [1] = "Tobias Fennel",
                [2] = FormattableString.Invariant($"Guest {n % 25 + 1}"),
                [3] = FormattableString.Invariant($"Neighbour {n % 40 + 1}"),
            }
        );
        transcripts.Apply(id, text => MadeMarks.Of(text, aside: 12, each: 60, flags: 1_400), "bench");
        return sitting;
    }

    private static ShotFacts Filmed { get; } =
        new(
            new SourceRange(default, new SourceTime(Length)),
            new PerMille(500),
            new PerMille(5),
            [PictureColour.Brown],
            1,
            new PerMille(280),
            new PictureLook(new byte[PictureLook.Length])
        );

    private static SittingTime At(int word) => new(MediaTime.FromMilliseconds((long)word * WordMilliseconds));

    private static NewSource Source(string data, int n, int k)
    {
        var name = k == 0 ? FormattableString.Invariant($"SND{n:000}.WAV") : FormattableString.Invariant($"CAM{k}_{n:000}.MOV");
        var path = Path.Combine(Directory.CreateDirectory(Path.Combine(data, "footage", "made")).FullName, name);
        File.WriteAllText(path, $"{name}: no footage, a stand-in of the bench\n");
        var picture = k == 0 ? null : new PictureFacts("prores", "yuv422p10le", 1920, 1080, FrameRate.R25, false);
        var start =
            k == 0
                ? new StartOfFile(null, MediaTime.FromMilliseconds(36_000_000))
                : new StartOfFile(
                    new TimecodeCount(FrameRate.R25, false).Parse(FormattableString.Invariant($"10:{n % 60:00}:0{k}:00")),
                    null
                );
        var facts = new SourceFacts(
            k == 0 ? "wav" : "mov",
            Length,
            picture,
            [new SoundTrack(k == 0 ? 0 : 1, "pcm_s24le", 48_000, k == 0 ? 3 : 2)],
            start,
            null,
            k == 0 ? null : "Made",
            null
        );
        return new NewSource(
            path,
            name,
            new FileInfo(path).Length,
            FormattableString.Invariant($"made{n:000}{k}"),
            facts,
            new DateTimeOffset(File.GetLastWriteTimeUtc(path)).ToUnixTimeSeconds()
        );
    }

    private static async Task StandInsAsync(IServiceProvider services, IReadOnlyList<Source> sources, Sitting sitting)
    {
        var (cache, mics) = (services.GetRequiredService<MediaCache>(), services.GetRequiredService<SittingMics>());
        var peaks = new byte[Length.ToMillisecondsRounded() * PeaksASecond / 1000];
        new Random(Seed).NextBytes(peaks);
        foreach (var source in sources)
        {
            await cache.MakeAsync(cache.Playing(source), path => File.WriteAllTextAsync(path, "stand-in"));
            await cache.MakeAsync(cache.Thumbnail(source), path => File.WriteAllTextAsync(path, "stand-in"));
            await cache.MakeAsync(cache.Peaks(source), path => File.WriteAllBytesAsync(path, peaks));
            if (source.Facts.Picture is not null)
            {
                await cache.MakeAsync(cache.ShotPicture(source, 1), path => File.WriteAllTextAsync(path, "stand-in"));
                services.GetRequiredService<Shots>().Save(source.Id, int.MaxValue, [(Filmed, [])]);
            }
            services
                .GetRequiredService<Mics>()
                .Heard(source.Id, [.. Enumerable.Range(0, source.Facts.Channels).Select(_ => new Core.Mics.ChannelSound(-20, 26, null))]);
        }
        await cache.MakeAsync(cache.SittingSound(mics.Of(sitting).Key), path => File.WriteAllTextAsync(path, "stand-in"));
    }

    private static List<Bite> Keep(IServiceProvider services, List<long> sittings, Random random)
    {
        var (bites, footage) = (services.GetRequiredService<Store.Bites>(), services.GetRequiredService<Store.Footage>());
        var kept = new List<Bite>();
        for (var n = 0; n < Bites; n++)
        {
            var sitting = footage.Sitting(sittings[n * sittings.Count / Bites])!;
            int first = random.Next(WordsOfSitting - 100),
                last = first + random.Next(25, 90);
            var bite = Bite.Of(
                sitting.Id,
                sitting.TranscriptId!.Value,
                new(first),
                new(last),
                new SittingRange(At(first), At(last + 1)),
                Themes[n % Themes.Length],
                n % 5 == 0 ? "the best of three" : "",
                "bench"
            );
            var id = bites.Add(bite);
            if (n % 40 == 39)
            {
                bites.SetAside(id, true, "bench");
            }
            kept.Add(bite with { Mark = bite.Mark with { Id = id }, IsAside = n % 40 == 39 });
        }
        return kept;
    }

    private static void Lay(IServiceProvider services, long production, List<Bite> kept, int cards)
    {
        var stories = services.GetRequiredService<Store.Stories>();
        var count = new TimecodeCount(FrameRate.R25, false);
        var story = stories.Get(
            stories.Add(production, "Long order", count.Parse("01:00:00:00"), MediaTime.FromMilliseconds(5_400_000), "bench"),
            "bench"
        )!;
        stories.TakeInHand(production, story.Id);
        foreach (var bite in kept.Where(b => !b.IsAside).Take(cards))
        {
            story = stories.Apply(
                story.Id,
                story.Version,
                new LayCard(new Card(Guid.NewGuid(), bite.Id, bite.SittingId, bite.Range, null), story.Story.Pieces.Count),
                "bench"
            );
        }
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  made: {story.Story.Cards.Count} cards of {kept.Count} bites"));
    }
}
