using EmberLane.Application.Hands;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Queue;

/// <summary>A server that has its errands done by workers.</summary>
public static class QueueServices
{
    /// <summary>Gives errands to the queue instead of doing them in this process.</summary>
    public static IServiceCollection AddQueue(this IServiceCollection services, QueueWish wish) =>
        services
            .AddSingleton(wish)
            .AddSingleton<QueuedHands>()
            .AddSingleton<IHands>(s => s.GetRequiredService<QueuedHands>())
            .AddHostedService(s => s.GetRequiredService<QueuedHands>());
}
