using System.Globalization;
using EmberLane.Store;
using EmberLane.Web.Demo;
using EmberLane.Web.Gathering;
using EmberLane.Web.Rooms;
using EmberLane.Web.Work;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Mvc;
using Serilog;
using Serilog.Events;

namespace EmberLane.Web;

/// <summary>Puts the server together.</summary>
public static class Server
{
    private const int MostFields = 50_000;

    /// <summary>The server, not yet started. <paramref name="adjust"/> lets a test put its own services in.</summary>
    public static WebApplication Build(Options options, Action<IServiceCollection>? adjust = null)
    {
        // Numbers read the same on every machine, whatever its language.
        CultureInfo.DefaultThreadCurrentCulture = CultureInfo.InvariantCulture;
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        var folder = DataFolder.Take(options.Data);
        try
        {
            return Build(options, folder, adjust);
        }
        catch
        {
            folder.Dispose();
            throw;
        }
    }

    private static WebApplication Build(Options options, DataFolder folder, Action<IServiceCollection>? adjust)
    {
        var builder = WebApplication.CreateBuilder(new WebApplicationOptions
        {
            ContentRootPath = AppContext.BaseDirectory,
            WebRootPath = WebRoot(),
            ApplicationName = typeof(Server).Assembly.GetName().Name,
        });
        builder.Host.UseSerilog((_, log) => log.MinimumLevel.Information()
            .MinimumLevel.Override("Microsoft", LogEventLevel.Warning)
            .WriteTo.File(Path.Combine(options.Data, "log", "ember.log"), rollingInterval: RollingInterval.Day, retainedFileCountLimit: 7, formatProvider: CultureInfo.InvariantCulture));
        builder.WebHost.UseUrls($"http://{options.Address}:{options.Port}");
        builder.WebHost.ConfigureKestrel(kestrel => kestrel.AddServerHeader = false);
        Services(builder.Services, options, folder);
        adjust?.Invoke(builder.Services);
        var app = builder.Build();
        app.Services.GetRequiredService<DataFolder>().TryKeys(app.Services.GetRequiredService<IDataProtectionProvider>());
        app.Services.GetRequiredService<Store.Transcripts>().ClearHalf();
        app.UseExceptionHandler(new ExceptionHandlerOptions
        {
            ExceptionHandlingPath = "/error",
            // A form that can not be read is the sender's doing, not ours.
            StatusCodeSelector = e => e is InvalidDataException or BadHttpRequestException ? StatusCodes.Status400BadRequest : StatusCodes.Status500InternalServerError,
        });
        app.UseStatusCodePagesWithReExecute("/error", "?code={0}");
        app.Use(Security.HeadersAsync);
        app.UseStaticFiles(new StaticFileOptions { OnPrepareResponse = file => file.Context.Response.Headers.CacheControl = "no-cache" });
        app.UseRouting();
        app.MapRazorPages();
        app.MapGet("/healthz", (WarmUp warm) => warm.Done ? Results.Text("ready") : Results.Text("starting", statusCode: StatusCodes.Status503ServiceUnavailable));
        Media.Map(app);
        Events.Map(app);
        return app;
    }

    private static void Services(IServiceCollection services, Options options, DataFolder folder)
    {
        // Made by a function, so that it is let go with the others, and last of them.
        services.AddSingleton(_ => folder);
        services.AddSingleton(options);
        services.AddSingleton(TimeProvider.System);
        services.AddSingleton(_ => new Database(Path.Combine(options.Data, "ember.sqlite")));
        services.AddSingleton<Footage>().AddSingleton<Productions>().AddSingleton<Grouping>().AddSingleton<Mics>().AddSingleton<Likeness>().AddSingleton<Store.Transcripts>().AddSingleton<VoicePrints>().AddSingleton<Texts>().AddSingleton<Store.Bites>().AddSingleton<Store.Stories>().AddSingleton<Jobs>().AddSingleton<Settings>();
        services.AddSingleton<FootageFolders>().AddSingleton<SourceFiles>().AddSingleton<Listening>().AddSingleton<MediaCache>().AddSingleton<SyncSounds>().AddSingleton<SittingMics>().AddSingleton<FilesCheck>().AddSingleton<SittingChanges>().AddSingleton<Intake>().AddSingleton<Upload>().AddSingleton<IDiskSpace, DiskSpace>();
        services.AddSingleton<WorkNews>().AddSingleton<DiskReserve>().AddSingleton<Recognisers>().AddSingleton<Arrival>();
        services.AddSingleton<IWork, PicturesWork>().AddSingleton<IWork, SyncWork>().AddSingleton<IWork, FolderWork>().AddSingleton<IWork, TranscribeWork>().AddSingleton<IWork, MicsWork>().AddSingleton<IWork, SoundWork>().AddSingleton<IWork, AlikeWork>().AddSingleton<IWork, FilesWork>().AddSingleton<IWork, FindWork>().AddSingleton<IWork, SaidWork>().AddSingleton<IWork, VoicesWork>();
        services.AddSingleton<WorkLoop>().AddHostedService(s => s.GetRequiredService<WorkLoop>());
        services.AddHostedService<FilesWatch>();
        services.AddSingleton<Upkeep>().AddHostedService(s => s.GetRequiredService<Upkeep>());
        services.AddSingleton<WarmUp>().AddHostedService(s => s.GetRequiredService<WarmUp>());
        services.AddSingleton<Desk>().AddSingleton<HeardBefore>().AddSingleton<DemoProduction>();
        services.AddDataProtection().PersistKeysToFileSystem(new DirectoryInfo(folder.Keys)).SetApplicationName("EmberLane");
        // A day has thousands of files to tick.
        services.Configure<FormOptions>(o => o.ValueCountLimit = MostFields);
        services.Configure<MvcOptions>(o => o.MaxModelBindingCollectionSize = MostFields);
        services.AddAntiforgery(o => o.HeaderName = "RequestVerificationToken");
        services.AddRazorPages();
    }

    // Beside the source when it is run from there, beside the program otherwise.
    private static string WebRoot()
    {
        var beside = Path.Combine(AppContext.BaseDirectory, "wwwroot");
        for (var folder = new DirectoryInfo(AppContext.BaseDirectory); !Directory.Exists(beside) && folder is not null; folder = folder.Parent)
        {
            var source = Path.Combine(folder.FullName, "src", "EmberLane.Web", "wwwroot");
            if (Directory.Exists(source))
            {
                return source;
            }
        }
        return beside;
    }
}
