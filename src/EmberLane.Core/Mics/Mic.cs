namespace EmberLane.Core.Mics;

/// <summary>What a channel is: worn by one person, hung over several, a camera's own, several mixed into one, or of no use.</summary>
public enum MicKind
{
    /// <summary>Worn on the body.</summary>
    Lav,

    /// <summary>Held over whoever speaks.</summary>
    Boom,

    /// <summary>On a camera.</summary>
    Camera,

    /// <summary>Several mics mixed on the recorder.</summary>
    Mix,

    /// <summary>Nothing to be heard.</summary>
    Unused,
}

/// <summary>What a channel sounds like. <see cref="Loud"/> is the level of its loud moments in dB below full scale (negative),
/// <see cref="Spread"/> how far in dB those lie above its soft ones while somebody speaks on any channel; <see cref="CopyOf"/> is an
/// earlier channel of the file that holds the same sound.</summary>
public sealed record ChannelSound(decimal Loud, decimal Spread, int? CopyOf);

/// <summary>What a person decided about a channel; null leaves it as guessed.</summary>
public sealed record MicChoice(MicKind? Kind, string? Person, bool? Heard)
{
    /// <summary>Nobody chose anything.</summary>
    public static MicChoice None { get; } = new(null, null, null);
}

/// <summary>
/// One channel of a sitting: what it is, whose it is (empty: nobody's alone), whether it is heard in the reading sound, and by what it was
/// taken for that.
/// </summary>
public sealed record Mic(long SourceId, int Channel, string Name, MicKind Kind, string Person, bool Heard, string Why);
