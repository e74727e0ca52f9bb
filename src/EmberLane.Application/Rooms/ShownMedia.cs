using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using EmberLane.Application.Gathering;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>
/// A file that is made for who comes by a link: where it shall lie, and of which file it is (null for the mix of the mics), without which
/// stretches of that.
/// </summary>
public sealed record ShownFile(string Path, Source? Source, IReadOnlyList<SourceRange> Without);

/// <summary>
/// What is seen and heard of a sitting by who comes by a link: its playing copies, and where something is off the record, others without
/// it.
/// </summary>
public sealed class ShownMedia(Footage footage, OffTheRecord held, SittingMics sittingMics, MediaCache cache, SourceFiles files)
{
    /// <summary>Where the sound of a sitting lies; null while it is not made.</summary>
    public string? Sound(Sitting sitting)
    {
        var key = sittingMics.Of(sitting).Key;
        var without = held.Withheld(sitting);
        return Made(without.Count == 0 ? cache.SittingSound(key) : cache.ShownSound(key, KeyOf(without)));
    }

    /// <summary>
    /// Where the picture of a file lies; null while it is not made. It has its own sound only where nothing of its sitting is off the
    /// record.
    /// </summary>
    public string? Picture(Source source) =>
        source is not { SittingId: { } id, Place: not null } || footage.Sitting(id) is not { } sitting ? null
        : held.Withheld(sitting) is { Count: > 0 } without ? Made(Wanted(source, without).Path)
        : Plain(source);

    /// <summary>What is to be made of a sitting before it can be shown; none where nothing of it is off the record.</summary>
    public IReadOnlyList<ShownFile> Missing(Sitting sitting)
    {
        var without = held.Withheld(sitting);
        var mics = sittingMics.Of(sitting);
        return without.Count == 0
            ? []
            :
            [
                .. footage
                    .SourcesOf(sitting.Id)
                    .Where(s => s is { Facts.Picture: not null, Place: not null } && cache.IsPlayable(s))
                    .Select(s => Wanted(s, without))
                    .Concat(mics.Placed.Count == 0 ? [] : [new ShownFile(cache.ShownSound(mics.Key, KeyOf(without)), null, [])])
                    .Where(f => !cache.IsWhole(f.Path)),
            ];
    }

    /// <summary>The playing copy of a file as it is, or the file itself where browsers play it; null while there is none.</summary>
    public string? Plain(Source source) => source.Facts.PlaysAsItIs ? files.Find(source) : Made(cache.Playing(source));

    private string? Made(string path) => cache.IsWhole(path) ? path : null;

    // A file that rolls before and after only is made without its sound all the same: so none of its bytes tells anything.
    private ShownFile Wanted(Source source, IReadOnlyList<SittingRange> without)
    {
        var place = source.Place!.Value;
        return new ShownFile(
            cache.ShownPicture(source, KeyOf(without, place)),
            source,
            [.. without.Select(r => new SourceRange(place.ToSource(r.In), place.ToSource(r.Out)))]
        );
    }

    private static string KeyOf(IReadOnlyList<SittingRange> without, ClockMap place = default)
    {
        var text =
            string.Create(CultureInfo.InvariantCulture, $"{place.Start.FromZero.Units} {place.DriftPerBillion} ")
            + string.Join(
                ' ',
                without.Select(r => string.Create(CultureInfo.InvariantCulture, $"{r.In.FromZero.Units}-{r.Out.FromZero.Units}"))
            );
        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)))[..16];
    }
}
