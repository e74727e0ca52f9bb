using System.Globalization;
using System.Net;
using System.Threading.RateLimiting;
using EmberLane.Application.People;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.RateLimiting;

namespace EmberLane.Web.Access;

/// <summary>Sets up who comes in, and how they are known again.</summary>
internal static class Door
{
    /// <summary>The scheme by which somebody is known who came by a link.</summary>
    public const string ByLink = "link";

    /// <summary>The claim that holds the number of the link.</summary>
    public const string LinkClaim = "link";

    /// <summary>The limit on tries of secrets: so many a minute from one address.</summary>
    public const string Tries = "tries";

    private const int TriesAMinute = 30,
        WrongInARow = 5,
        LockedMinutes = 10,
        RememberedDays = 14,
        PasskeyMinutes = 5;

    /// <summary>Adds what is needed.</summary>
    public static void Add(IServiceCollection services, Options options)
    {
        services.AddSingleton<FirstOwner>();
        services.AddSingleton<LastSeen>();
        services.AddScoped<SigningIn>();
        services
            .AddIdentityCore<Account>(o =>
            {
                o.Lockout.MaxFailedAccessAttempts = WrongInARow;
                o.Lockout.DefaultLockoutTimeSpan = TimeSpan.FromMinutes(LockedMinutes);
                o.User.AllowedUserNameCharacters = "";
            })
            .AddUserStore<AccountStore>()
            .AddSignInManager();
        services.AddAuthentication(IdentityConstants.ApplicationScheme).AddCookie(ByLink).AddIdentityCookies();
        services.Configure<CookieAuthenticationOptions>(
            IdentityConstants.ApplicationScheme,
            o =>
            {
                Harden(o, "ember", options.IsTls);
                o.ExpireTimeSpan = TimeSpan.FromDays(RememberedDays);
                o.SlidingExpiration = true;
                o.Events.OnValidatePrincipal = StillSignedInAsync;
            }
        );
        services.Configure<CookieAuthenticationOptions>(
            ByLink,
            o =>
            {
                Harden(o, "ember-link", options.IsTls);
                o.SlidingExpiration = false;
            }
        );
        services.Configure<CookieAuthenticationOptions>(
            IdentityConstants.TwoFactorUserIdScheme,
            o =>
            {
                Harden(o, "ember-passkey", options.IsTls);
                o.ExpireTimeSpan = TimeSpan.FromMinutes(PasskeyMinutes);
            }
        );
        services.Configure<IdentityPasskeyOptions>(o =>
        {
            o.UserVerificationRequirement = "required";
            o.ResidentKeyRequirement = "required";
        });
        services.AddRateLimiter(o =>
        {
            o.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            o.OnRejected = async (rejected, cancel) =>
            {
                rejected.HttpContext.Response.ContentType = "text/plain; charset=utf-8";
                await rejected.HttpContext.Response.WriteAsync("Too many tries from this address. Wait a minute, then try again.", cancel);
            };
            o.AddPolicy(
                Tries,
                context =>
                    HttpMethods.IsPost(context.Request.Method)
                        ? RateLimitPartition.GetFixedWindowLimiter(
                            context.Connection.RemoteIpAddress?.ToString() ?? "",
                            _ => new FixedWindowRateLimiterOptions { PermitLimit = TriesAMinute, Window = TimeSpan.FromMinutes(1) }
                        )
                        : RateLimitPartition.GetNoLimiter("")
            );
        });
        if (options.Behind is not null)
        {
            services.Configure<ForwardedHeadersOptions>(o =>
            {
                o.ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto;
                o.ForwardLimit = 1;
                o.KnownIPNetworks.Clear();
                o.KnownProxies.Clear();
                Proxies(options).ForEach(o.KnownProxies.Add);
            });
        }
    }

    /// <summary>Finds out who asks, and lets through who may. After routing.</summary>
    public static void Use(WebApplication app, Options options)
    {
        if (!options.HasDoor)
        {
            app.Use(
                (context, next) =>
                {
                    context.Features.Set(Visitor.Alone(Person.Typed(context.Request)));
                    return next(context);
                }
            );
            return;
        }
        app.UseRateLimiter();
        app.UseAuthentication();
        app.Use(WhoAsksAsync);
        Flood.Use(app);
        app.Use(Gate.KnownAsync);
    }

    /// <summary>
    /// Behind a proxy: takes from it who asked and how, and answers nobody else. Before everything.
    /// </summary>
    public static void UseProxy(WebApplication app, Options options)
    {
        if (options.Behind is null)
        {
            return;
        }
        var proxies = Proxies(options);
        app.Use(
            (context, next) =>
            {
                var from = context.Connection.RemoteIpAddress is { IsIPv4MappedToIPv6: true } mapped
                    ? mapped.MapToIPv4()
                    : context.Connection.RemoteIpAddress;
                // How this machine looks whether the server is well.
                if (context.Request.Path.Value is "/healthz" or "/metrics" && from is not null && IPAddress.IsLoopback(from))
                {
                    return next(context);
                }
                return from is not null && proxies.Contains(from)
                    ? context.Request.Headers["X-Forwarded-Proto"] == "https"
                        ? next(context)
                        : SayAsync(
                            context,
                            "The proxy before Ember Lane does not say that it was asked by https (X-Forwarded-Proto). Set it up to."
                        )
                    : SayAsync(context, "Ember Lane answers its proxy only.");
            }
        );
        app.UseForwardedHeaders();
    }

    private static List<IPAddress> Proxies(Options options) =>
        options.Proxy is { } named ? [named] : [IPAddress.Loopback, IPAddress.IPv6Loopback];

    private static Task SayAsync(HttpContext context, string sentence)
    {
        context.Response.StatusCode = StatusCodes.Status403Forbidden;
        context.Response.ContentType = "text/plain; charset=utf-8";
        return context.Response.WriteAsync(sentence);
    }

    private static void Harden(CookieAuthenticationOptions o, string name, bool isTls)
    {
        // Browsers take a name with this before it from nobody but this very host, over TLS.
        o.Cookie.Name = isTls ? "__Host-" + name : name;
        o.Cookie.HttpOnly = true;
        o.Cookie.SameSite = SameSiteMode.Lax;
        o.Cookie.SecurePolicy = isTls ? CookieSecurePolicy.Always : CookieSecurePolicy.SameAsRequest;
        o.Cookie.IsEssential = true;
    }

    // Each time, so that a session that was ended ends at once.
    private static async Task StillSignedInAsync(CookieValidatePrincipalContext context)
    {
        var manager = context.HttpContext.RequestServices.GetRequiredService<SignInManager<Account>>();
        if (await manager.ValidateSecurityStampAsync(context.Principal) is { } account)
        {
            context.HttpContext.Features.Set(account);
            return;
        }
        context.RejectPrincipal();
        await context.HttpContext.SignOutAsync(IdentityConstants.ApplicationScheme);
    }

    private static async Task WhoAsksAsync(HttpContext context, RequestDelegate next)
    {
        var services = context.RequestServices;
        var account = context.Features.Get<Account>();
        var link = await LinkOfAsync(context, services);
        if (account is not null)
        {
            services.GetRequiredService<LastSeen>().Here(account);
        }
        if (account is not null || link is not null)
        {
            var roles = account is null
                ? new Dictionary<long, Core.People.Role>()
                : services.GetRequiredService<Members>().RolesOf(account.Id);
            context.Features.Set(Visitor.Of(account, roles, link));
        }
        await next(context);
    }

    private static async Task<StoredAdmission?> LinkOfAsync(HttpContext context, IServiceProvider services)
    {
        var ticket = await context.AuthenticateAsync(ByLink);
        if (
            ticket.Principal?.FindFirst(LinkClaim)?.Value is not { } text
            || !long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var id)
        )
        {
            return null;
        }
        var link = services.GetRequiredService<Admissions>().Get(id);
        if (link is { Kind: Core.People.AdmissionKind.Link } && services.GetRequiredService<Admitting>().WhyNot(link) is null)
        {
            return link;
        }
        await context.SignOutAsync(ByLink);
        return null;
    }
}
