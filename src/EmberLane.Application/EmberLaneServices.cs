using EmberLane.Application.Backups;
using EmberLane.Application.Demo;
using EmberLane.Application.Gathering;
using EmberLane.Application.Hands;
using EmberLane.Application.People;
using EmberLane.Application.Rooms;
using EmberLane.Application.Tidying;
using EmberLane.Application.Work;
using EmberLane.Engines.Speech;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Application;

/// <summary>Everything that the rooms and the commands work with.</summary>
public static class EmberLaneServices
{
    /// <summary>
    /// Adds the store in <paramref name="folder"/>, what the rooms do, and background work, which begins with the host. Opening the
    /// database may throw <see cref="StoreException"/> when it is first asked for.
    /// </summary>
    public static IServiceCollection AddEmberLane(this IServiceCollection services, Options options, DataFolder folder) =>
        services
            // Made by a function, so that it is let go with the others, and last of them.
            .AddSingleton(_ => folder)
            .AddRooms(options);

    /// <summary>The same without the hold of the folder: for commands, which start no host, so that no work begins.</summary>
    public static IServiceCollection AddRooms(this IServiceCollection services, Options options) =>
        services
            .AddSingleton(options)
            .AddSingleton(TimeProvider.System)
            .AddStore(options)
            .AddGathering()
            .AddWork()
            .AddSingleton<HandoffDesk>()
            .AddSingleton<OffTheRecord>()
            .AddSingleton<CopyDesk>()
            .AddSingleton<ShownMedia>()
            .AddSingleton<ShownStories>()
            .AddSingleton<ShownReading>()
            .AddSingleton<Exports.ProductionMoves>()
            .AddSingleton<Returns>()
            .AddSingleton<RoomChanges>()
            .AddSingleton<Desk>()
            .AddSingleton<ProductionChanges>()
            .AddSingleton<Admitting>()
            .AddSingleton<CommentDesk>()
            .AddSingleton<Here>()
            .AddSingleton<HeardBefore>()
            .AddSingleton<TalkSounds>()
            .AddSingleton<SeamSounds>()
            .AddSingleton<StorySeams>()
            .AddSingleton<KeptTurns>()
            .AddSingleton<PictureCentres>()
            .AddSingleton<CameraDesk>()
            .AddSingleton<StoryTable>()
            .AddSingleton<ScratchVoices>()
            .AddSingleton<TidyWishes>()
            .AddSingleton<Findings>()
            .AddSingleton<ScriptMatches>()
            .AddSingleton<DemoProduction>();

    private static IServiceCollection AddStore(this IServiceCollection services, Options options) =>
        services
            .AddSingleton(s => BackupShelf.Of(options, s.GetRequiredService<IDiskSpace>(), s.GetRequiredService<TimeProvider>()))
            .AddSingleton(s => s.GetRequiredService<BackupShelf>().Opened())
            .AddSingleton<Footage>()
            .AddSingleton<Productions>()
            .AddSingleton<Accounts>()
            .AddSingleton<Passkeys>()
            .AddSingleton<Members>()
            .AddSingleton<Admissions>()
            .AddSingleton<DoorLog>()
            .AddSingleton<Comments>()
            .AddSingleton<SeenUntil>()
            .AddSingleton<Grouping>()
            .AddSingleton<Mics>()
            .AddSingleton<Likeness>()
            .AddSingleton<Store.Transcripts>()
            .AddSingleton<VoicePrints>()
            .AddSingleton<Texts>()
            .AddSingleton<Readings>()
            .AddSingleton(s => new Finder(s.GetRequiredService<Database>(), EnglishPronouncing.Read))
            .AddSingleton<Missing>()
            .AddSingleton<LogSheets>()
            .AddSingleton<BiteMoves>()
            .AddSingleton<PaperEdits>()
            .AddSingleton<SavedSearches>()
            .AddSingleton<Shots>()
            .AddSingleton<ReadTimes>()
            .AddSingleton<Store.Bites>()
            .AddSingleton<Store.Stories>()
            .AddSingleton<Store.Cameras>()
            .AddSingleton<Store.Captions>()
            .AddSingleton<Copies>()
            .AddSingleton<Changes>()
            .AddSingleton<SetFlags>()
            .AddSingleton<Scripts>()
            .AddSingleton<Jobs>()
            .AddSingleton<Settings>();

    private static IServiceCollection AddGathering(this IServiceCollection services) =>
        services
            .AddSingleton<FootageFolders>()
            .AddSingleton<SourceFiles>()
            .AddSingleton<IDiskSpace, DiskSpace>()
            .AddSingleton<MediaCache>()
            .AddSingleton<Listening>()
            .AddSingleton<SyncSounds>()
            .AddSingleton<SittingMics>()
            .AddSingleton<MicNames>()
            .AddSingleton<FilesCheck>()
            .AddSingleton<SittingChanges>()
            .AddSingleton<Intake>();

    private static IServiceCollection AddWork(this IServiceCollection services) =>
        services
            .AddSingleton<News>()
            .AddSingleton<DiskReserve>()
            .AddSingleton<SpeechModelFolder>()
            .AddSingleton<Recognisers>()
            .AddSingleton<IHands, HandsHere>()
            .AddSingleton<Taggers>()
            .AddSingleton<Terms>()
            .AddSingleton<Arrival>()
            .AddSingleton<IWork, PicturesWork>()
            .AddSingleton<IWork, SyncWork>()
            .AddSingleton<IWork, FolderWork>()
            .AddSingleton<IWork, TranscribeWork>()
            .AddSingleton<IWork, MicsWork>()
            .AddSingleton<IWork, SoundWork>()
            .AddSingleton<IWork, AlikeWork>()
            .AddSingleton<IWork, FilesWork>()
            .AddSingleton<IWork, FindWork>()
            .AddSingleton<IWork, SaidWork>()
            .AddSingleton<IWork, VoicesWork>()
            .AddSingleton<IWork, TalkWork>()
            .AddSingleton<IWork, LookWork>()
            .AddSingleton<IWork, TagWork>()
            .AddSingleton<IWork, CopyWork>()
            .AddSingleton<IWork, ShownWork>()
            .AddSingleton<WorkLoop>()
            .AddHostedService(s => s.GetRequiredService<WorkLoop>())
            .AddHostedService<FilesWatch>()
            .AddSingleton<BackupClock>()
            .AddHostedService(s => s.GetRequiredService<BackupClock>())
            .AddSingleton<Upkeep>()
            .AddHostedService(s => s.GetRequiredService<Upkeep>());
}
