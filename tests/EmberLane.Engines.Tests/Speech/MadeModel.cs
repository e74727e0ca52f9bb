using System.Text;

namespace EmberLane.Engines.Tests.Speech;

/// <summary>
/// Writes a speech model that hears nothing and always says one sentence, in the ggml form: each part of the sentence leads to the next by
/// its one layer, whatever sounds. It shows that models are read, asked and answered; not how well any hears.
/// </summary>
public sealed class MadeModel
{
    private const int SoundSteps = 1_500,
        TextSteps = 448,
        Bands = 80,
        Bins = 201,
        FourBytes = 0,
        TwoBytes = 1,
        WordsTold = 50_257,
        Loud = 8,
        Louder = 100;

    private readonly IReadOnlyList<string> parts;
    private readonly int width,
        layers,
        heads,
        vocabulary;

    /// <summary>The number that stands for each part, and the part that follows it.</summary>
    private readonly Dictionary<int, int> places = [];
    private readonly Dictionary<int, int> follows = [];

    private MadeModel(IReadOnlyList<string> parts, int language, int lasts, int width, int layers, int heads, bool knowsMany)
    {
        (this.parts, this.width, this.layers, this.heads) = (parts, width, layers, heads);
        var more = knowsMany ? 1 : 0;
        vocabulary = 51_864 + more;
        int end = 50_256 + more,
            begin = 50_257 + more,
            write = 50_358 + more,
            noTime = 50_363 + more;
        Chain([knowsMany ? write : begin, noTime, .. Enumerable.Range(0, parts.Count), noTime + (lasts / 2), end]);
        if (knowsMany)
        {
            Chain([begin, begin + 1 + language]);
        }
    }

    /// <summary>
    /// Writes a model of English only. <paramref name="parts"/> are at most fifty; the first of each word begins with a space. The sentence
    /// lasts so many hundredths of a second.
    /// </summary>
    public static void Write(string path, IReadOnlyList<string> parts, int lasts = 200) =>
        new MadeModel(parts, 0, lasts, 64, 1, 1, knowsMany: false).Write(path);

    /// <summary>Writes a model of many languages that always finds one of them, by its number among them (0 English, 3 Spanish).</summary>
    public static void WriteMany(string path, IReadOnlyList<string> parts, int language, int lasts = 200) =>
        new MadeModel(parts, language, lasts, 64, 1, 1, knowsMany: true).Write(path);

    /// <summary>Writes a model of many languages of the smallest form that is in use, so that times are found as in that one.</summary>
    public static void WriteTiny(string path, IReadOnlyList<string> parts, int lasts = 200) =>
        new MadeModel(parts, 0, lasts, 384, 4, 6, knowsMany: true).Write(path);

    private void Chain(IReadOnlyList<int> ids)
    {
        foreach (var (id, next) in ids.Zip(ids.Skip(1)))
        {
            follows[id] = next;
        }
        foreach (var id in ids)
        {
            places.TryAdd(id, places.Count);
        }
    }

    private void Write(string path)
    {
        using var file = new BinaryWriter(File.Create(path));
        int[] head = [0x67676d6c, vocabulary, SoundSteps, width, heads, layers, TextSteps, width, heads, layers, Bands, TwoBytes];
        Array.ForEach(head, file.Write);
        file.Write(Bands);
        file.Write(Bins);
        file.Write(new byte[Bands * Bins * sizeof(float)]);
        file.Write(WordsTold);
        for (var i = 0; i < WordsTold; i++)
        {
            // A lone space must be among them.
            var text = Encoding.UTF8.GetBytes(
                i < parts.Count ? parts[i]
                : i == parts.Count ? " "
                : $"x{i}"
            );
            file.Write(text.Length);
            file.Write(text);
        }
        Tables(file);
    }

    private void Tables(BinaryWriter file)
    {
        Table(file, "encoder.positional_embedding", [width, SoundSteps], FourBytes);
        Table(file, "encoder.conv1.weight", [3, Bands, width], TwoBytes);
        Table(file, "encoder.conv1.bias", [1, width], FourBytes);
        Table(file, "encoder.conv2.weight", [3, width, width], TwoBytes);
        Table(file, "encoder.conv2.bias", [1, width], FourBytes);
        Norm(file, "encoder.ln_post");
        Table(file, "decoder.positional_embedding", [width, TextSteps], FourBytes);
        // A part is told by one number of its own, when it is read as well as when it is said.
        Table(
            file,
            "decoder.token_embedding.weight",
            [width, vocabulary],
            TwoBytes,
            (n, id) => places.TryGetValue(id, out var p) && p == n ? Loud : 0
        );
        Norm(file, "decoder.ln");
        for (var layer = 0; layer < layers; layer++)
        {
            var (sound, text) = ($"encoder.blocks.{layer}.", $"decoder.blocks.{layer}.");
            Attention(file, sound + "attn");
            Follow(file, sound, leads: false);
            Attention(file, text + "attn");
            Attention(file, text + "cross_attn");
            Follow(file, text, leads: layer == layers - 1);
        }
    }

    private void Attention(BinaryWriter file, string name)
    {
        Norm(file, name + "_ln");
        foreach (var part in new[] { "query", "key", "value", "out" })
        {
            Table(file, $"{name}.{part}.weight", [width, width], TwoBytes);
            if (part != "key")
            {
                Table(file, $"{name}.{part}.bias", [width], FourBytes);
            }
        }
    }

    // Whatever part stands there, the one that follows it is far louder than everything else.
    private void Follow(BinaryWriter file, string name, bool leads)
    {
        var leadsTo = follows.ToDictionary(f => places[f.Key], f => places[f.Value]);
        Norm(file, name + "mlp_ln");
        Table(file, name + "mlp.0.weight", [width, 4 * width], TwoBytes, (from, to) => leads && from == to ? 1 : 0);
        Table(file, name + "mlp.0.bias", [4 * width], FourBytes, (_, _) => -4);
        Table(
            file,
            name + "mlp.2.weight",
            [4 * width, width],
            TwoBytes,
            (from, to) => leads && leadsTo.TryGetValue(from, out var next) && next == to ? Louder : 0
        );
        Table(file, name + "mlp.2.bias", [width], FourBytes);
    }

    private void Norm(BinaryWriter file, string name)
    {
        Table(file, name + ".weight", [width], FourBytes, (_, _) => 1);
        Table(file, name + ".bias", [width], FourBytes);
    }

    private static void Table(BinaryWriter file, string name, int[] sizes, int kind, Func<int, int, float>? number = null)
    {
        file.Write(sizes.Length);
        file.Write(Encoding.UTF8.GetByteCount(name));
        file.Write(kind);
        Array.ForEach(sizes, file.Write);
        file.Write(Encoding.UTF8.GetBytes(name));
        var numbers = sizes.Aggregate(1, (a, b) => a * b);
        if (number is null)
        {
            file.Write(new byte[numbers * (kind == TwoBytes ? 2 : 4)]);
            return;
        }
        for (var i = 0; i < numbers; i++)
        {
            var value = number(i % sizes[0], i / sizes[0]);
            if (kind == TwoBytes)
            {
                file.Write((Half)value);
            }
            else
            {
                file.Write(value);
            }
        }
    }
}
