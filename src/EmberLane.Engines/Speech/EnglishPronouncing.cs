using EmberLane.Core.Finding.Sounds;

namespace EmberLane.Engines.Speech;

/// <summary>
/// How English words are said, from the open dictionary that the Debian package pocketsphinx-en-us brings along: the one from which the
/// local recogniser takes all that it can write. Without it the rules of spelling serve.
/// </summary>
public static class EnglishPronouncing
{
    private const string Dictionary = "/usr/share/pocketsphinx/model/en-us/cmudict-en-us.dict";

    /// <summary>Reads it, in about a quarter of a second.</summary>
    public static Pronouncing Read() => File.Exists(Dictionary) ? Pronouncing.Read(File.ReadLines(Dictionary)) : Pronouncing.BySpelling;
}
