using System.Xml;

namespace EmberLane.Core.Media;

/// <summary>
/// Looks at XML from outside before it is made into a tree: deep nesting makes trees that take minutes to build and to walk.
/// </summary>
public static class XmlDepth
{
    /// <summary>Elements within elements; neither a recorder nor a word processor needs half of it.</summary>
    public const int Most = 64;

    private const int MostCharacters = 20_000_000;

    /// <summary>No document types, nothing fetched, at most 20 million characters.</summary>
    public static XmlReaderSettings Safe =>
        new()
        {
            DtdProcessing = DtdProcessing.Prohibit,
            XmlResolver = null,
            MaxCharactersInDocument = MostCharacters,
        };

    /// <summary>
    /// Whether nothing lies deeper than <see cref="Most"/>. Reads once, in memory that does not grow. Throws <see cref="XmlException"/> for
    /// what is no XML, <see cref="OperationCanceledException"/> between two nodes.
    /// </summary>
    public static bool IsShallow(TextReader text, CancellationToken cancel = default)
    {
        using var reader = XmlReader.Create(text, Safe);
        while (reader.Read())
        {
            cancel.ThrowIfCancellationRequested();
            if (reader.Depth > Most)
            {
                return false;
            }
        }
        return true;
    }
}
