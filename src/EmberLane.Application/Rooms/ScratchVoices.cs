using System.Security.Cryptography;
using System.Text;
using EmberLane.Application.Gathering;
using EmberLane.Core.Stories;
using EmberLane.Engines.Speech;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>
/// The narration of stories as a machine reads it, where a production wants that: made when it is first heard, kept in the cache.
/// </summary>
public sealed class ScratchVoices(Productions productions, MediaCache cache) : IDisposable
{
    /// <summary>The name under which a production's wish is kept.</summary>
    public const string Wanted = "narration.scratch";

    private readonly SemaphoreSlim one = new(1);

    /// <summary>Whether a production wants its narration read.</summary>
    public bool IsWanted(long production) => productions.Setting(production, Wanted) == "yes";

    /// <summary>Whether it can be read on this machine.</summary>
    public static bool CanRead => ScratchVoice.IsThere;

    /// <summary>By what a reading is known: the words, and how long they shall last.</summary>
    public static string KeyOf(Narration narration, int wordsAMinute) =>
        Convert.ToHexStringLower(
            SHA256.HashData(Encoding.UTF8.GetBytes(FormattableString.Invariant($"{narration.Lasts(wordsAMinute).Units} {narration.Words}")))
        )[..32];

    /// <summary>
    /// The file of a narration, made where it is not there. Throws <see cref="Engines.ToolException"/> where it can not be.
    /// </summary>
    public async Task<string> FileAsync(Narration narration, int wordsAMinute, CancellationToken cancel)
    {
        var path = cache.Narration(KeyOf(narration, wordsAMinute));
        if (cache.IsWhole(path))
        {
            return path;
        }
        await one.WaitAsync(cancel);
        try
        {
            if (!cache.IsWhole(path))
            {
                await cache.MakeAsync(path, p => ScratchVoice.MakeAsync(narration.Words, narration.Lasts(wordsAMinute), p, cancel));
            }
            return path;
        }
        finally
        {
            one.Release();
        }
    }

    /// <inheritdoc/>
    public void Dispose() => one.Dispose();
}
