using System.Buffers.Binary;
using System.Globalization;

namespace EmberLane.Engines.Speech.Models;

/// <summary>
/// Reads what a ggml speech model file says of itself, and walks over its tables without reading their numbers, so that a file which is
/// not one, or ends early, is known before anything is asked of it. The form is that of the open-source library ggml.
/// </summary>
public static class SpeechModelFile
{
    private const int Magic = 0x67676d6c,
        EnglishOnly = 51_864,
        MostDimensions = 4,
        LongestName = 256,
        MostTables = 10_000,
        MostTold = 1_000_000;

    /// <summary>Bytes that so many numbers of a table take, by the kind of its numbers.</summary>
    private static readonly Dictionary<int, (int Bytes, int Numbers)> Kinds = new()
    {
        [0] = (4, 1),
        [1] = (2, 1),
        [2] = (18, 32),
        [3] = (20, 32),
        [6] = (22, 32),
        [7] = (24, 32),
        [8] = (34, 32),
        [10] = (84, 256),
        [11] = (110, 256),
        [12] = (144, 256),
        [13] = (176, 256),
        [14] = (210, 256),
    };

    /// <summary>Throws <see cref="FormatException"/> with what is wrong with the file; a file that can not be opened says so too.</summary>
    public static SpeechModel Read(string path)
    {
        try
        {
            using var file = new BinaryReader(File.OpenRead(path));
            var model = Head(file, path);
            PassFilters(file);
            PassWords(file);
            PassTables(file);
            return model;
        }
        catch (EndOfStreamException)
        {
            throw new FormatException($"{Path.GetFileName(path)} ends early: it was not copied whole. Get it anew.");
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new FormatException($"{path} can not be read: {e.Message}");
        }
    }

    private static SpeechModel Head(BinaryReader file, string path)
    {
        if (file.BaseStream.Length < sizeof(int) || file.ReadInt32() != Magic)
        {
            throw new FormatException(
                $"{Path.GetFileName(path)} is not a speech model in the ggml form. Such files are mostly called ggml-….bin."
            );
        }
        int vocabulary = file.ReadInt32(),
            soundSteps = file.ReadInt32(),
            soundWidth = file.ReadInt32(),
            soundHeads = file.ReadInt32(),
            soundLayers = file.ReadInt32();
        int textSteps = file.ReadInt32(),
            textWidth = file.ReadInt32(),
            textHeads = file.ReadInt32(),
            textLayers = file.ReadInt32(),
            bands = file.ReadInt32();
        file.ReadInt32();
        if (
            vocabulary is < EnglishOnly or > MostTold
            || new[] { soundSteps, soundWidth, textSteps, textWidth }.Any(n => n is < 1 or > 10_000)
            || new[] { soundHeads, soundLayers, textHeads, textLayers }.Any(n => n is < 1 or > 200)
            || bands is not (80 or 128)
        )
        {
            throw new FormatException(
                $"{Path.GetFileName(path)} has the head of a ggml file, but not of a speech model. Get it anew, or take another."
            );
        }
        var many = vocabulary > EnglishOnly;
        var (size, heads) = (soundLayers, textLayers, textWidth, bands) switch
        {
            (4, 4, 384, 80) => ("tiny", "Tiny"),
            (6, 6, 512, 80) => ("base", "Base"),
            (12, 12, 768, 80) => ("small", "Small"),
            (24, 24, 1024, 80) => ("medium", "Medium"),
            (32, 32, 1280, 80) => ("large", "LargeV2"),
            (32, 32, 1280, 128) => ("large", "LargeV3"),
            (32, 4, 1280, 128) => ("large, quick", "LargeV3Turbo"),
            _ => (string.Create(CultureInfo.InvariantCulture, $"{soundLayers}+{textLayers} layers"), null),
        };
        return new SpeechModel(
            path,
            file.BaseStream.Length,
            size,
            many,
            many || heads is null || heads.StartsWith("Large", StringComparison.Ordinal) ? heads : heads + "En"
        );
    }

    private static void PassFilters(BinaryReader file)
    {
        long bands = file.ReadInt32(),
            bins = file.ReadInt32();
        Pass(file, Whole(bands) * Whole(bins) * sizeof(float));
    }

    private static void PassWords(BinaryReader file)
    {
        for (var left = Whole(file.ReadInt32()); left > 0; left--)
        {
            Pass(file, Whole(file.ReadInt32()));
        }
    }

    private static void PassTables(BinaryReader file)
    {
        var tables = 0;
        Span<byte> head = stackalloc byte[sizeof(int)];
        for (; file.BaseStream.Position < file.BaseStream.Length; tables++)
        {
            file.BaseStream.ReadExactly(head);
            int dimensions = BinaryPrimitives.ReadInt32LittleEndian(head),
                letters = file.ReadInt32(),
                kind = file.ReadInt32();
            if (dimensions is < 1 or > MostDimensions || letters is < 1 or > LongestName || !Kinds.TryGetValue(kind, out var takes))
            {
                throw Damaged(file);
            }
            long numbers = 1;
            for (var d = 0; d < dimensions; d++)
            {
                // More numbers than the file has bits end early wherever they are; so the product never overflows.
                numbers = Math.Min(numbers, file.BaseStream.Length * 8) * Whole(file.ReadInt32());
            }
            Pass(file, letters + (numbers / takes.Numbers * takes.Bytes));
        }
        if (tables is 0 or > MostTables)
        {
            throw new EndOfStreamException();
        }
    }

    private static long Whole(long number) => number is >= 0 and <= int.MaxValue ? number : throw new EndOfStreamException();

    private static void Pass(BinaryReader file, long bytes)
    {
        if (file.BaseStream.Length - file.BaseStream.Position < bytes)
        {
            throw new EndOfStreamException();
        }
        file.BaseStream.Seek(bytes, SeekOrigin.Current);
    }

    private static FormatException Damaged(BinaryReader file) =>
        new(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{Path.GetFileName(((FileStream)file.BaseStream).Name)} is damaged near byte {file.BaseStream.Position}. Get it anew."
            )
        );
}
