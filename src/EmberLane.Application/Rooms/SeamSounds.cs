using EmberLane.Application.Gathering;
using EmberLane.Core.Seams;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>
/// How loud sittings are, finely enough to judge seams, as it was measured once and lies in the cache; what is looked at is kept in memory,
/// 0.7 MB an hour of sound.
/// </summary>
public sealed class SeamSounds(Footage footage, SittingMics sittingMics, MediaCache cache)
{
    /// <summary>So many bytes are kept in memory: a hundred hours.</summary>
    private const long Most = 72 << 20;

    private readonly Lock gate = new();
    private readonly LinkedList<(string Path, SittingSeamSound Sound, long Bytes)> kept = new();

    /// <summary>The sound of a sitting; null while it was not measured yet, or there is none.</summary>
    public SittingSeamSound? Of(long sittingId)
    {
        if (footage.Sitting(sittingId) is not { } sitting)
        {
            return null;
        }
        var path = cache.Seams(sittingMics.Of(sitting).Key);
        if (!cache.IsWhole(path))
        {
            return null;
        }
        lock (gate)
        {
            for (var known = kept.First; known is not null; known = known.Next)
            {
                if (known.Value.Path == path)
                {
                    kept.Remove(known);
                    kept.AddFirst(known);
                    return known.Value.Sound;
                }
            }
            var bytes = File.ReadAllBytes(path);
            var sound = new SittingSeamSound(
                SeamSound.OfHalves(bytes.AsMemory(sizeof(long))),
                new SittingTime(new MediaTime(BitConverter.ToInt64(bytes)))
            )
            {
                Name = path,
            };
            kept.AddFirst((path, sound, bytes.Length));
            while (kept.Count > 1 && kept.Sum(k => k.Bytes) > Most)
            {
                kept.RemoveLast();
            }
            return sound;
        }
    }

    /// <summary>Writes what was measured of a sound that begins at a moment of its sitting.</summary>
    internal static void Write(string path, SeamSound sound, SittingTime from)
    {
        using var file = File.Create(path);
        file.Write(BitConverter.GetBytes(from.FromZero.Units));
        file.Write(sound.Halves());
    }
}
