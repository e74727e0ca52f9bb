using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>Looks whether all files of a production are in their places.</summary>
internal sealed class FilesWork(FilesCheck check) : IWork
{
    public string Kind => WorkKinds.Files;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var (missing, replaced) = await check.RunAsync(job.ProductionId, (at, all, name) => progress(PerMille.Of(at, all), name), cancel);
        return missing + replaced == 0
            ? "all in their places"
            : string.Create(CultureInfo.InvariantCulture, $"{missing} missing, {replaced} replaced");
    }
}
