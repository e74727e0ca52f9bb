using System.Runtime.InteropServices;
using EmberLane.Application.Gathering;
using EmberLane.Core.Tidy;
using EmberLane.Store;

namespace EmberLane.Application.Tidying;

/// <summary>
/// What tidying hears of sittings, as it was measured once and lies in the cache. The few that are looked at are kept in memory: about
/// 13 MB for three hours.
/// </summary>
public sealed class TalkSounds(SittingMics sittingMics, MediaCache cache)
{
    private const int Kept = 3;

    private readonly Lock gate = new();
    private readonly List<(string Path, TalkSound Sound)> kept = [];

    /// <summary>The sound of a sitting; null while it was not measured yet, or there is none.</summary>
    public TalkSound? Of(Sitting sitting)
    {
        var path = cache.Talk(sittingMics.Of(sitting).Key);
        if (!cache.IsWhole(path))
        {
            return null;
        }
        lock (gate)
        {
            if (kept.FindIndex(k => k.Path == path) is >= 0 and var at)
            {
                var known = kept[at];
                kept.RemoveAt(at);
                kept.Add(known);
                return known.Sound;
            }
            var sound = Read(path);
            kept.Add((path, sound));
            if (kept.Count > Kept)
            {
                kept.RemoveAt(0);
            }
            return sound;
        }
    }

    /// <summary>Writes what was measured, a number for each step of 10 ms from a moment of the sitting on.</summary>
    internal static void Write(string path, TalkSound sound)
    {
        using var file = File.Create(path);
        file.Write(BitConverter.GetBytes(sound.From.Units));
        foreach (var numbers in new[] { sound.Energy, sound.Chances, sound.Steady })
        {
            file.Write(MemoryMarshal.AsBytes<float>(numbers));
        }
    }

    private static TalkSound Read(string path)
    {
        var bytes = File.ReadAllBytes(path);
        var numbers = MemoryMarshal.Cast<byte, float>(bytes.AsSpan(sizeof(long)));
        var steps = numbers.Length / 3;
        return new TalkSound(
            numbers[..steps].ToArray(),
            numbers[steps..(2 * steps)].ToArray(),
            numbers[(2 * steps)..].ToArray(),
            new MediaTime(BitConverter.ToInt64(bytes))
        );
    }
}
