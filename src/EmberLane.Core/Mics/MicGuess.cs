using System.Text.RegularExpressions;

namespace EmberLane.Core.Mics;

/// <summary>A channel as it is known before a person has said anything.</summary>
public sealed record KnownChannel(
    long SourceId,
    int Channel,
    string Name,
    bool HasPicture,
    int ChannelsOfFile,
    ChannelSound? Sound,
    MicChoice Choice
);

/// <summary>
/// Guesses what each channel of a sitting is: by the name that the recorder gave it, else by how it sounds; what a person decided stands.
/// </summary>
public static partial class MicGuess
{
    /// <summary>Below this loudness, in dB of full scale, there is nothing but noise on a channel.</summary>
    private const decimal Silent = -60;

    /// <summary>
    /// From this spread in dB a channel is near one voice: talk itself varies by 9 to 13 (measured on hung mics), and bleed of the others
    /// lies 15 and more below.
    /// </summary>
    public const decimal NearVoice = 18;

    /// <summary>
    /// The mics of a sitting, in the order given. <paramref name="people"/> are the names known in the production, which a channel's name
    /// is completed to.
    /// </summary>
    public static IReadOnlyList<Mic> Of(IReadOnlyList<KnownChannel> channels, IReadOnlyCollection<string> people)
    {
        var guessed = channels.Select(c => Guess(c, people)).ToList();
        var heard = Heard(guessed);
        return [.. guessed.Select((m, i) => m with { Heard = channels[i].Choice.Heard ?? heard.Contains(m.Kind) })];
    }

    private static Mic Guess(KnownChannel channel, IReadOnlyCollection<string> people)
    {
        var (kind, why) = ByName(channel.Name) is { } named ? (named, $"by its name, “{channel.Name}”") : BySound(channel);
        var person = kind == MicKind.Lav ? PersonIn(channel.Name, people) : "";
        return new Mic(
            channel.SourceId,
            channel.Channel,
            channel.Name,
            channel.Choice.Kind ?? kind,
            channel.Choice.Person ?? person,
            false,
            channel.Choice == MicChoice.None ? why : "set by hand"
        );
    }

    // The lavs alone where several are worn: every other open mic adds the same voices later and with echo. With one lav the others would
    // hardly be heard without the boom. Else the next best.
    private static HashSet<MicKind> Heard(List<Mic> mics)
    {
        if (mics.Count(m => m.Kind == MicKind.Lav) == 1)
        {
            return [MicKind.Lav, MicKind.Boom];
        }
        foreach (var best in new[] { MicKind.Lav, MicKind.Boom, MicKind.Mix, MicKind.Camera })
        {
            if (mics.Any(m => m.Kind == best))
            {
                return [best];
            }
        }
        return [];
    }

    private static MicKind? ByName(string name) =>
        LavName().IsMatch(name) ? MicKind.Lav
        : BoomName().IsMatch(name) ? MicKind.Boom
        : MixName().IsMatch(name) ? MicKind.Mix
        : CameraName().IsMatch(name) ? MicKind.Camera
        : null;

    private static (MicKind Kind, string Why) BySound(KnownChannel channel) =>
        channel switch
        {
            { Sound: { Loud: < Silent } } => (MicKind.Unused, "hardly any sound on it"),
            { Sound.CopyOf: { } other } => (MicKind.Unused, FormattableString.Invariant($"the same sound as channel {other + 1}")),
            { HasPicture: true } => (MicKind.Camera, "a camera's own sound"),
            { Sound: { Spread: >= NearVoice } s, ChannelsOfFile: > 1 } => (
                MicKind.Lav,
                FormattableString.Invariant($"one near voice: {s.Spread:0} dB above the others")
            ),
            { Sound: { } s, ChannelsOfFile: > 1 } => (
                MicKind.Boom,
                FormattableString.Invariant($"everybody alike: {s.Spread:0} dB between near and far")
            ),
            { ChannelsOfFile: 1 } => (MicKind.Mix, "the only channel of a recorder"),
            _ => (MicKind.Boom, "not listened to yet"),
        };

    /// <summary>
    /// The person in a channel's name: what is left without the words for the mic, completed to a known person's full name when exactly one
    /// fits.
    /// </summary>
    public static string PersonIn(string name, IReadOnlyCollection<string> people)
    {
        var left = WholeName(NotPerson().Replace(name, " "), people);
        return left.Any(char.IsLetter) ? left : "";
    }

    /// <summary>The one known person who has this name or a part of it, in any case; else the name as it is, on one line.</summary>
    public static string WholeName(string name, IReadOnlyCollection<string> people)
    {
        var asked = TypedText.OneLine(name);
        if (people.FirstOrDefault(p => p.Equals(asked, StringComparison.OrdinalIgnoreCase)) is { } same)
        {
            return same;
        }
        var fitting = people.Where(p => p.Split(' ').Contains(asked, StringComparer.OrdinalIgnoreCase)).Distinct().ToList();
        return asked.Length > 0 && fitting.Count == 1 ? fitting[0] : asked;
    }

    [GeneratedRegex(@"(?i)(?:^|[\W_\d])(lav|lavalier|radio|rf|body|wireless|tie|clip)(?:[\W_\d]|$)")]
    private static partial Regex LavName();

    [GeneratedRegex(@"(?i)(?:^|[\W_\d])(boom|shotgun|overhead|pole|plant)(?:[\W_\d]|$)")]
    private static partial Regex BoomName();

    [GeneratedRegex(@"(?i)(?:^|[\W_\d])(mix|lr|mixl|mixr|mix\s*[lr]|master|sum)(?:[\W_\d]|$)")]
    private static partial Regex MixName();

    [GeneratedRegex(@"(?i)(?:^|[\W_\d])(cam|camera|scratch|on-?board)(?:[\W_\d]|$)")]
    private static partial Regex CameraName();

    [GeneratedRegex(
        @"(?i)(?<![\p{L}])(lav|lavalier|radio|rf|body|wireless|tie|clip|mic|microphone|ch|channel|track|tr)(?![\p{L}])"
            + @"|[\d_#:()\[\]/]+|(?<=\s|^)-|-(?=\s|$)"
    )]
    private static partial Regex NotPerson();
}
