using System.Globalization;
using System.Xml;
using System.Xml.Linq;

namespace EmberLane.Core.Media;

/// <summary>
/// What a sound recorder wrote about its file in the iXML chunk of a Broadcast WAV: scene, take, tape and the names of the channels by
/// their place in the file.
/// </summary>
public sealed record RecorderNotes(string? Scene, string? Take, string? Tape, IReadOnlyList<string> ChannelNames)
{
    /// <summary>A recorder that wrote nothing.</summary>
    public static RecorderNotes None { get; } = new(null, null, null, []);

    /// <summary>More channels than this are not believed.</summary>
    private const int MostChannels = 64;

    /// <summary>
    /// Reads the chunk's XML; anything that is not what it should be gives <see cref="None"/> or is left out, since the sound is good
    /// without it.
    /// </summary>
    public static RecorderNotes Read(string xml)
    {
        try
        {
            var trimmed = xml.TrimEnd('\0', ' ', '\n', '\r', '\t');
            if (!XmlDepth.IsShallow(new StringReader(trimmed)))
            {
                return None;
            }
            using var reader = XmlReader.Create(new StringReader(trimmed), XmlDepth.Safe);
            var root = XDocument.Load(reader).Root;
            return root is null ? None : new RecorderNotes(Value(root, "SCENE"), Value(root, "TAKE"), Value(root, "TAPE"), Names(root));
        }
        catch (XmlException)
        {
            return None;
        }
    }

    // The place in the file is the interleave index; where a recorder leaves it out the channel's own number is meant.
    private static string[] Names(XElement root)
    {
        var named = root.Descendants("TRACK")
            .Select(t => (Place: Number(t, "INTERLEAVE_INDEX") ?? Number(t, "CHANNEL_INDEX"), Name: Value(t, "NAME") ?? ""))
            .Where(t => t.Place is >= 1 and <= MostChannels)
            .ToList();
        var names = Enumerable.Repeat("", named.Count == 0 ? 0 : named.Max(t => t.Place!.Value)).ToArray();
        foreach (var (place, name) in named)
        {
            names[place!.Value - 1] = name;
        }
        return names;
    }

    private static string? Value(XElement parent, string name) =>
        parent.Elements(name).Select(e => TypedText.OneLine(e.Value)).FirstOrDefault(v => v.Length is > 0 and <= 200);

    private static int? Number(XElement parent, string name) =>
        int.TryParse(Value(parent, name), NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : null;
}
