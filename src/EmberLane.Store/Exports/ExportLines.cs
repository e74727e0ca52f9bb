using System.Text.Json;

namespace EmberLane.Store.Exports;

/// <summary>Reads lines of JSON from a stream that may be anything: none is held that is longer than it may be.</summary>
internal sealed class ExportLines(Stream input)
{
    /// <summary>The longest line, in bytes (64 MiB): the edits of a long text are the longest there are.</summary>
    public const int Longest = 64 << 20;

    /// <summary>So many bytes there may be in all (8 GiB), whatever the ZIP says of itself: ten thousand hours have fewer.</summary>
    public const long Most = 8L << 30;

    private readonly byte[] read = new byte[1 << 16];
    private int at,
        end;

    private long all;

    /// <summary>The number of the line that was read last, from 1.</summary>
    public long Number { get; private set; }

    /// <summary>
    /// The next line; null at the end. Throws <see cref="FormatException"/> for what is no JSON, and for too long a line.
    /// </summary>
    public JsonElement? Next()
    {
        var line = new MemoryStream();
        while (true)
        {
            if (at == end)
            {
                (at, end) = (0, input.Read(read));
                all += end;
                if (all > Most)
                {
                    throw new FormatException("it is larger than any production");
                }
                if (end == 0)
                {
                    return line.Length == 0 ? null : Parsed(line);
                }
            }
            var stop = Array.IndexOf(read, (byte)'\n', at, end - at);
            var until = stop < 0 ? end : stop;
            line.Write(read, at, until - at);
            if (line.Length > Longest)
            {
                throw new FormatException(FormattableString.Invariant($"line {Number + 1} is longer than {Longest >> 20} MiB"));
            }
            at = stop < 0 ? end : stop + 1;
            if (stop >= 0)
            {
                return Parsed(line);
            }
        }
    }

    private JsonElement Parsed(MemoryStream line)
    {
        Number++;
        try
        {
            using var document = JsonDocument.Parse(line.GetBuffer().AsMemory(0, (int)line.Length));
            return document.RootElement.Clone();
        }
        catch (JsonException)
        {
            throw new FormatException(FormattableString.Invariant($"line {Number} is no JSON"));
        }
    }
}
