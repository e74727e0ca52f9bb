using System.Globalization;
using System.IO.Compression;
using System.Text;

namespace EmberLane.Running;

/// <summary>Files that lie, break off, name other files or ask for more than they should; each as its name and its bytes.</summary>
public static class HostileFiles
{
    private static readonly Encoding Utf8 = new UTF8Encoding(false);

    /// <summary>Texts that ffmpeg would take for films, and that name <paramref name="other"/>, a file that nobody chose.</summary>
    public static IEnumerable<(string Name, byte[] Content)> PlayLists(string other)
    {
        yield return ("holiday.mp4", Utf8.GetBytes($"#EXTM3U\n#EXT-X-TARGETDURATION:10\n#EXTINF:10,\nfile://{other}\n#EXT-X-ENDLIST\n"));
        yield return ("holiday-2.mp4", Utf8.GetBytes($"#EXTM3U\n#EXT-X-TARGETDURATION:10\n#EXTINF:10,\n{other}\n#EXT-X-ENDLIST\n"));
        yield return ("master.mov", Utf8.GetBytes($"#EXTM3U\n#EXT-X-STREAM-INF:BANDWIDTH=800000\nfile://{other}\n"));
        yield return ("joined.wav", Utf8.GetBytes($"ffconcat version 1.0\nfile '{other}'\n"));
        yield return (
            "dash.mp4",
            Utf8.GetBytes(
                $"<?xml version=\"1.0\"?><MPD xmlns=\"urn:mpeg:dash:schema:mpd:2011\" type=\"static\" "
                    + "mediaPresentationDuration=\"PT10S\"><Period><AdaptationSet mimeType=\"video/mp4\"><Representation id=\"1\" "
                    + $"bandwidth=\"1\"><BaseURL>{other}</BaseURL></Representation></AdaptationSet></Period></MPD>"
            )
        );
        yield return (
            "stream.mp4",
            Utf8.GetBytes(
                "v=0\no=- 0 0 IN IP4 127.0.0.1\ns=x\nc=IN IP4 127.0.0.1\nt=0 0\nm=video 5004 RTP/AVP 96\na=rtpmap:96 H264/90000\n"
            )
        );
        yield return ("notes.txt", Utf8.GetBytes("Just a list of what was shot on Tuesday.\n"));
        yield return (
            "drawing.svg",
            Utf8.GetBytes("<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"9\" height=\"9\"><rect width=\"9\" height=\"9\"/></svg>")
        );
    }

    /// <summary>Files with endings of films and sounds that hold none, or broken ones.</summary>
    public static IEnumerable<(string Name, byte[] Content)> BrokenMedia()
    {
        var noise = new byte[100_000];
        new Random(4).NextBytes(noise);
        yield return ("empty.mov", []);
        yield return ("noise.mov", noise);
        yield return ("head.mp4", [.. "\0\0\0\u0018ftypmp42"u8, .. noise[..2000]]);
        yield return ("cut64.wav", [.. "RF64"u8, 255, 255, 255, 255, .. "WAVEds64"u8, 28, 0, 0, 0, 1, 2, 3]);
        yield return ("nested.wav", NestedNotes(140_000));
    }

    /// <summary>A good sound of a tenth of a second whose recorder's notes are nested so deep.</summary>
    public static byte[] NestedNotes(int depth)
    {
        var notes = Utf8.GetBytes(string.Concat(Enumerable.Repeat("<a>", depth)) + string.Concat(Enumerable.Repeat("</a>", depth)));
        return Wave(new byte[3200], ("iXML", notes));
    }

    /// <summary>A WAV file of one channel at 16 kHz, with further chunks before the sound.</summary>
    public static byte[] Wave(byte[] samples, params (string Name, byte[] Content)[] chunks) => Wave(samples, 16_000, chunks);

    /// <summary>As <see cref="Wave(byte[], ValueTuple{string, byte[]}[])"/>, at another rate.</summary>
    public static byte[] Wave(byte[] samples, int rate, params (string Name, byte[] Content)[] chunks)
    {
        using var file = new MemoryStream();
        using var to = new BinaryWriter(file);
        var extra = chunks.Sum(c => 8 + c.Content.Length + (c.Content.Length & 1));
        to.Write("RIFF"u8);
        to.Write(36 + extra + samples.Length);
        to.Write("WAVEfmt "u8);
        to.Write(16);
        to.Write((short)1);
        to.Write((short)1);
        to.Write(rate);
        to.Write(2 * rate);
        to.Write((short)2);
        to.Write((short)16);
        foreach (var (name, content) in chunks)
        {
            to.Write(Encoding.ASCII.GetBytes(name));
            to.Write(content.Length);
            to.Write(content);
            if ((content.Length & 1) == 1)
            {
                to.Write((byte)0);
            }
        }
        to.Write("data"u8);
        to.Write(samples.Length);
        to.Write(samples);
        return file.ToArray();
    }

    /// <summary>A FLAC file with the number of samples in its head changed to what is claimed.</summary>
    public static byte[] ClaimingFlac(byte[] flac, long samples)
    {
        var lie = (byte[])flac.Clone();
        // After the mark and the head of the block: sizes (10 bytes), then rate, channels and depth in 28 bits, then 36 bits of samples.
        const int at = 4 + 4 + 13;
        lie[at] = (byte)((lie[at] & 0xF0) | (int)((samples >> 32) & 0x0F));
        for (var i = 0; i < 4; i++)
        {
            lie[at + 1 + i] = (byte)(samples >> (24 - (8 * i)));
        }
        return lie;
    }

    /// <summary>Texts that ask a reader for far more than they hold, each made when it is asked for.</summary>
    public static IEnumerable<(string Name, Func<byte[]> Content)> Texts()
    {
        const string caption = "1\n00:00:01,000 --> 00:00:02,000\n";
        yield return ("braces.srt", () => Utf8.GetBytes(caption + string.Concat(Enumerable.Repeat("{\\", 320_000))));
        yield return ("braces-2.srt", () => Utf8.GetBytes(caption + string.Concat(Enumerable.Repeat("{\"", 320_000))));
        yield return ("fonts.srt", () => Utf8.GetBytes(caption + string.Concat(Enumerable.Repeat("<font ", 300_000))));
        yield return ("angles.vtt", () => Utf8.GetBytes("WEBVTT\n\n00:01.000 --> 00:02.000\n" + new string('<', 400_000)));
        yield return (
            "voices.vtt",
            () => Utf8.GetBytes("WEBVTT\n\n00:01.000 --> 00:02.000\n" + string.Concat(Enumerable.Repeat("<v ", 300_000)))
        );
        yield return ("commas.csv", () => Utf8.GetBytes(new string(',', 19_000_000)));
        yield return ("row.csv", () => Utf8.GetBytes("words\n" + new string(',', 19_000_000)));
        yield return ("quote.csv", () => Utf8.GetBytes("words\n\"" + new string('a', 5_000_000)));
        yield return (
            "half.json",
            () => Utf8.GetBytes("{\"schema\":\"ember-lane.words/1\",\"language\":\"en\",\"words\":[{\"t\":\"\\ud800\",\"s\":0,\"e\":1}]}")
        );
        yield return ("deep.json", () => Utf8.GetBytes(new string('[', 200_000)));
        yield return ("digits.srt", () => Utf8.GetBytes("1\n٠٠:٠٠:٠١,٠٠٠ --> ٠٠:٠٠:٠٢,٠٠٠\nwords\n"));
        yield return ("digits.txt", () => Utf8.GetBytes("٠١:٠٢ MAREN: words\n"));
        yield return ("blanks.txt", () => Utf8.GetBytes(new string(' ', 19_000_000) + "word"));
        yield return ("letters.txt", () => Utf8.GetBytes(new string('A', 19_000_000)));
        yield return ("names.txt", () => Utf8.GetBytes(string.Concat(Enumerable.Repeat("A B C D E F ", 1_000_000))));
        yield return ("times.txt", () => Utf8.GetBytes(string.Concat(Enumerable.Repeat("1:02 ", 2_000_000))));
        yield return ("nested.docx", () => WordTables(4_000));
        yield return ("bomb.docx", () => WordBomb());
    }

    /// <summary>A Word document of so many tables, each in a cell of the one before.</summary>
    public static byte[] WordTables(int depth) =>
        Word(
            string.Concat(Enumerable.Repeat("<w:tbl><w:tr><w:tc>", depth))
                + "<w:p><w:r><w:t>deep</w:t></w:r></w:p>"
                + string.Concat(Enumerable.Repeat("</w:tc></w:tr></w:tbl>", depth))
        );

    /// <summary>A Word document of this text in WordprocessingML, whatever it is.</summary>
    public static byte[] WordOf(byte[] body) => Word(Encoding.UTF8.GetString(body));

    // Hundreds of megabytes of blanks, packed to next to nothing.
    private static byte[] WordBomb() => Word("<w:p><w:r><w:t>", 450, "</w:t></w:r></w:p>");

    private static byte[] Word(string body, int megabytesOfBlanks = 0, string rest = "")
    {
        using var file = new MemoryStream();
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        {
            void Part(string name, string text, string end = "")
            {
                using var to = new StreamWriter(zip.CreateEntry(name).Open(), Utf8);
                to.Write(text);
                var blanks = new string(' ', 1_000_000);
                for (var i = 0; i < (end.Length > 0 ? megabytesOfBlanks : 0); i++)
                {
                    to.Write(blanks);
                }
                to.Write(end);
            }
            Part(
                "[Content_Types].xml",
                "<Types xmlns=\"http://schemas.openxmlformats.org/package/2006/content-types\"><Default Extension=\"rels\" "
                    + "ContentType=\"application/vnd.openxmlformats-package.relationships+xml\"/><Override PartName=\"/word/document.xml\" "
                    + "ContentType=\"application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml\"/></Types>"
            );
            Part(
                "_rels/.rels",
                "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\"><Relationship Id=\"r1\" "
                    + "Type=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument\" "
                    + "Target=\"word/document.xml\"/></Relationships>"
            );
            Part(
                "word/document.xml",
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"<w:document xmlns:w=\"http://schemas.openxmlformats.org/wordprocessingml/2006/main\"><w:body>{body}"
                ),
                rest + "</w:body></w:document>"
            );
        }
        return file.ToArray();
    }
}
