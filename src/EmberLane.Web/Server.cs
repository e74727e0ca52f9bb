using System.Globalization;
using System.Net;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Uploads;
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
        var builder = WebApplication.CreateBuilder(
            new WebApplicationOptions
            {
                ContentRootPath = AppContext.BaseDirectory,
                WebRootPath = WebRoot(),
                ApplicationName = typeof(Server).Assembly.GetName().Name,
            }
        );
        builder.Host.UseSerilog(
            (_, log) =>
                log
                    .MinimumLevel.Information()
                    .MinimumLevel.Override("Microsoft", LogEventLevel.Warning)
                    .WriteTo.File(
                        Path.Combine(options.Data, "log", "ember.log"),
                        rollingInterval: RollingInterval.Day,
                        retainedFileCountLimit: 7,
                        formatProvider: CultureInfo.InvariantCulture
                    )
        );
        var certificate = options.Certificate is { } chain
            ? new ServerCertificate(chain, options.CertificateKey, TimeProvider.System)
            : null;
        builder.WebHost.ConfigureKestrel(kestrel =>
        {
            kestrel.AddServerHeader = false;
            kestrel.Listen(
                IPAddress.Parse(options.Address),
                options.Port,
                listen =>
                {
                    if (certificate is not null)
                    {
                        listen.UseHttps(https =>
                        {
                            https.ServerCertificateChain = certificate.Current.Between;
                            https.ServerCertificateSelector = (_, _) => certificate.Now();
                        });
                    }
                }
            );
        });
        Services(builder.Services, options, folder);
        adjust?.Invoke(builder.Services);
        var app = builder.Build();
        Door.UseProxy(app, options);
        if (options.IsTls)
        {
            app.UseHsts();
        }
        SigningKeys.Try(app.Services.GetRequiredService<DataFolder>(), app.Services.GetRequiredService<IDataProtectionProvider>());
        app.Services.GetRequiredService<Store.Transcripts>().ClearHalf();
        app.Services.GetRequiredService<Readings>().MakeFirst();
        app.UseExceptionHandler(
            new ExceptionHandlerOptions
            {
                ExceptionHandlingPath = "/error",
                // A form that can not be read is the sender's doing, not ours.
                StatusCodeSelector = e =>
                    e is InvalidDataException or BadHttpRequestException
                        ? StatusCodes.Status400BadRequest
                        : StatusCodes.Status500InternalServerError,
            }
        );
        app.UseStatusCodePagesWithReExecute("/error", "?code={0}");
        app.Use(Security.Headers(options, certificate));
        app.UseStaticFiles(new StaticFileOptions { OnPrepareResponse = file => file.Context.Response.Headers.CacheControl = "no-cache" });
        app.UseRouting();
        Figures.Map(app);
        Door.Use(app, options);
        app.MapRazorPages();
        app.MapGet(
                "/healthz",
                (WarmUp warm) =>
                    warm.Done ? Results.Text("ready") : Results.Text("starting", statusCode: StatusCodes.Status503ServiceUnavailable)
            )
            .WithMetadata(new OpenAttribute());
        Media.Map(app);
        Events.Map(app);
        return app;
    }

    private static void Services(IServiceCollection services, Options options, DataFolder folder)
    {
        services.AddEmberLane(options, folder);
        services.AddSingleton<Upload>();
        services.AddSingleton<Rooms.Drawn.KeptDrawings>();
        services.AddSingleton<Pages.Shown.ShownServices>();
        services.AddSingleton<WarmUp>().AddHostedService(s => s.GetRequiredService<WarmUp>());
        services.AddDataProtection().PersistKeysToFileSystem(new DirectoryInfo(folder.Keys)).SetApplicationName("EmberLane");
        // A day has thousands of files to tick.
        services.Configure<FormOptions>(o => o.ValueCountLimit = MostFields);
        services.Configure<MvcOptions>(o => o.MaxModelBindingCollectionSize = MostFields);
        services.AddAntiforgery(o =>
        {
            o.HeaderName = "RequestVerificationToken";
            o.Cookie.SecurePolicy = options.IsTls ? CookieSecurePolicy.Always : CookieSecurePolicy.SameAsRequest;
        });
        Door.Add(services, options);
        services.AddRazorPages().AddMvcOptions(o => o.Filters.Add<PageGate>());
    }

    // Beside the source when it is run from there, beside the program otherwise.
    private static string WebRoot()
    {
        var beside = Path.Combine(AppContext.BaseDirectory, "wwwroot");
        for (
            var folder = new DirectoryInfo(AppContext.BaseDirectory);
            !Directory.Exists(beside) && folder is not null;
            folder = folder.Parent
        )
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
