// Writes the face network as ONNX, as it ships in src/EmberLane.Engines/Pictures/Network:
// dotnet run tools/face-model/face-model.cs IN.tflite OUT.onnx
// Reads the published format (FlatBuffers, numbers of its schema beside each use) and writes the published format (Protocol Buffers). It
// knows the nine operations that this network has and refuses any other.
using System.Buffers.Binary;
using System.Text;

if (args is not [var from, var to])
{
    Console.Error.WriteLine("dotnet run tools/face-model/face-model.cs IN.tflite OUT.onnx");
    return 2;
}
var model = new Table(File.ReadAllBytes(from), 0).Sub();
var codes = model.Tables(1).Select(c => Math.Max(c.Byte(0), c.Int(3))).ToList();
var buffers = model.Tables(4).ToList();
var graph = model.Tables(2).Single();
var tensors = graph.Tables(0).ToList();
int[] inputs = graph.Ints(1),
    outputs = graph.Ints(2);
var written = new Proto();
var half = tensors.Select((t, i) => (t, i)).Where(p => p.t.Byte(1) == 1).ToDictionary(p => p.i, p => Data(p.i));
written.Add(1, Node("Transpose", ["input"], [Name(inputs[0])], Proto.Ints("perm", 0, 3, 1, 2)));
foreach (var op in graph.Tables(3))
{
    int[] takes = op.Ints(1),
        gives = op.Ints(2);
    var options = op.Has(4) ? op.One(4) : null;
    var result = Name(gives[0]);
    switch (codes[op.Int(0)])
    {
        case 6: // Weights, kept as halves.
            written.Add(5, Weights(takes[0], "half-" + takes[0]));
            written.Add(1, Node("Cast", ["half-" + takes[0]], [result], Proto.Int("to", 1)));
            break;
        case 3 or 4: // Convolution, of all channels or of each alone.
            Convolution(takes, gives[0], options!, codes[op.Int(0)] == 4);
            break;
        case 19:
            written.Add(1, Node("Relu", [Name(takes[0])], [result]));
            break;
        case 0:
            written.Add(1, Node("Add", [Name(takes[0]), Name(takes[1])], [result]));
            break;
        case 17:
            written.Add(
                1,
                Node(
                    "MaxPool",
                    [Name(takes[0])],
                    [result],
                    Proto.Ints("kernel_shape", options!.Int(4), options.Int(3)),
                    Proto.Ints("strides", options.Int(2), options.Int(1)),
                    Proto.Ints("pads", Pads(takes[0], gives[0], options.Int(4), options.Int(3), options.Int(2), options.Int(1)))
                )
            );
            break;
        case 34: // Four pairs, before and behind, of batch, height, width, channels.
            var pads = Numbers(takes[1]);
            written.Add(5, Proto.Longs(result + "-pads", pads[0], pads[6], pads[2], pads[4], pads[1], pads[7], pads[3], pads[5]));
            written.Add(1, Node("Pad", [Name(takes[0]), result + "-pads"], [result]));
            break;
        case 23:
            var shape = Shape(gives[0]);
            written.Add(5, Proto.Longs(result + "-size", shape[0], shape[3], shape[1], shape[2]));
            written.Add(
                1,
                Node(
                    "Resize",
                    [Name(takes[0]), "", "", result + "-size"],
                    [result],
                    Proto.Text("mode", "linear"),
                    Proto.Text(
                        "coordinate_transformation_mode",
                        options!.Byte(2) != 0 ? "align_corners"
                            : options.Byte(3) != 0 ? "half_pixel"
                            : "asymmetric"
                    )
                )
            );
            break;
        case 22:
            written.Add(1, Node("Transpose", [Name(takes[0])], [result + "-rows"], Proto.Ints("perm", 0, 2, 3, 1)));
            written.Add(5, Proto.Longs(result + "-shape", [.. Shape(gives[0]).Select(s => (long)s)]));
            written.Add(1, Node("Reshape", [result + "-rows", result + "-shape"], [result]));
            break;
        case var other:
            throw new NotSupportedException($"Operation {other} is not known here.");
    }
}
written.Add(2, "faces");
written.Add(11, Proto.Value("input", Shape(inputs[0])));
foreach (var output in outputs)
{
    written.Add(12, Proto.Value(Name(output), Shape(output)));
}
var file = new Proto();
file.Add(1, 8); // The format's version 8, operations of version 17.
file.Add(7, written);
var operations = new Proto();
operations.Add(2, 17);
file.Add(8, operations);
File.WriteAllBytes(to, file.Bytes);
return 0;

void Convolution(int[] takes, int gives, Table options, bool isEach)
{
    var kernel = Shape(takes[1]);
    // From out, height, width, in; or from 1, height, width, channels.
    var turned = Name(takes[1]) + "-turned";
    written.Add(1, Node("Transpose", [Name(takes[1])], [turned], Proto.Ints("perm", isEach ? [3, 0, 1, 2] : [0, 3, 1, 2])));
    if (options.Byte(isEach ? 4 : 3) != 0)
    {
        throw new NotSupportedException("An activation within a convolution is not known here.");
    }
    written.Add(
        1,
        Node(
            "Conv",
            [Name(takes[0]), turned, Name(takes[2])],
            [Name(gives)],
            Proto.Ints("kernel_shape", kernel[1], kernel[2]),
            Proto.Ints("strides", options.Int(2), options.Int(1)),
            Proto.Int("group", isEach ? kernel[3] : 1),
            Proto.Ints(
                "pads",
                options.Byte(0) == 0 ? Pads(takes[0], gives, kernel[1], kernel[2], options.Int(2), options.Int(1)) : [0, 0, 0, 0]
            )
        )
    );
}

// What lies around a picture so that it keeps its size: more of it behind where it is odd.
long[] Pads(int input, int output, int high, int wide, int down, int along)
{
    int[] taken = Shape(input),
        given = Shape(output);
    int tall = Math.Max(0, ((given[1] - 1) * down) + high - taken[1]),
        broad = Math.Max(0, ((given[2] - 1) * along) + wide - taken[2]);
    return [tall / 2, broad / 2, tall - (tall / 2), broad - (broad / 2)];
}

Proto Weights(int tensor, string name) => Proto.Tensor(name, 10, [.. Shape(tensor).Select(s => (long)s)], half[tensor]);

byte[] Data(int tensor) => buffers[tensors[tensor].Int(2)].Blob(0);

int[] Numbers(int tensor) =>
    [.. Data(tensor).Chunk(4).Select(b => BinaryPrimitives.ReadInt32LittleEndian(b))];

int[] Shape(int tensor) => tensors[tensor].Ints(0);

string Name(int tensor) => outputs is [var one, var other] && tensor == one ? "boxes" : tensor == outputs[1] ? "scores" : "t" + tensor;

static Proto Node(string type, string[] takes, string[] gives, params Proto[] attributes)
{
    var node = new Proto();
    foreach (var t in takes)
    {
        node.Add(1, t);
    }
    foreach (var g in gives)
    {
        node.Add(2, g);
    }
    node.Add(4, type);
    foreach (var a in attributes)
    {
        node.Add(5, a);
    }
    return node;
}

/// <summary>A table of a FlatBuffer.</summary>
internal sealed class Table(byte[] all, int at)
{
    public Table Sub() => new(all, at + Read(at));

    public bool Has(int field) => Field(field) != 0;

    public int Byte(int field) => Field(field) is var f && f == 0 ? 0 : all[f];

    public int Int(int field) => Field(field) is var f && f == 0 ? 0 : Read(f);

    public Table One(int field) => new Table(all, Field(field)).Sub();

    public int[] Ints(int field) => [.. Places(field, 4).Select(Read)];

    public IEnumerable<Table> Tables(int field) => Places(field, 4).Select(p => new Table(all, p).Sub());

    public byte[] Blob(int field) => [.. Places(field, 1).Select(p => all[p])];

    private IEnumerable<int> Places(int field, int size)
    {
        if (Field(field) is not 0 and var f)
        {
            var vector = f + Read(f);
            for (var i = 0; i < Read(vector); i++)
            {
                yield return vector + 4 + (i * size);
            }
        }
    }

    private int Field(int field)
    {
        var fields = at - Read(at);
        var place = 4 + (2 * field);
        return place < Short(fields) && Short(fields + place) is not 0 and var offset ? at + offset : 0;
    }

    private int Read(int from) => BinaryPrimitives.ReadInt32LittleEndian(all.AsSpan(from));

    private int Short(int from) => BinaryPrimitives.ReadUInt16LittleEndian(all.AsSpan(from));
}

/// <summary>A message of Protocol Buffers as it is written.</summary>
internal sealed class Proto
{
    private readonly MemoryStream bytes = new();

    public byte[] Bytes => bytes.ToArray();

    public void Add(int field, long value)
    {
        Number((field << 3) | 0);
        Number(value);
    }

    public void Add(int field, byte[] value)
    {
        Number((field << 3) | 2);
        Number(value.Length);
        bytes.Write(value);
    }

    public void Add(int field, string value) => Add(field, Encoding.UTF8.GetBytes(value));

    public void Add(int field, Proto value) => Add(field, value.Bytes);

    public static Proto Int(string name, long value) => Attribute(name, 2, p => p.Add(3, value));

    public static Proto Text(string name, string value) => Attribute(name, 3, p => p.Add(4, value));

    public static Proto Ints(string name, params long[] values) => Attribute(name, 7, p => Array.ForEach(values, v => p.Add(8, v)));

    public static Proto Longs(string name, params long[] values) =>
        Tensor(name, 7, [values.Length], [.. values.SelectMany(BitConverter.GetBytes)]);

    public static Proto Tensor(string name, int type, long[] shape, byte[] raw)
    {
        var tensor = new Proto();
        Array.ForEach(shape, s => tensor.Add(1, s));
        tensor.Add(2, type);
        tensor.Add(8, name);
        tensor.Add(9, raw);
        return tensor;
    }

    public static Proto Value(string name, int[] shape)
    {
        Proto dimensions = new(),
            tensor = new(),
            type = new(),
            value = new();
        foreach (var s in shape)
        {
            var dimension = new Proto();
            dimension.Add(1, s);
            dimensions.Add(1, dimension);
        }
        tensor.Add(1, 1);
        tensor.Add(2, dimensions);
        type.Add(1, tensor);
        value.Add(1, name);
        value.Add(2, type);
        return value;
    }

    private static Proto Attribute(string name, int type, Action<Proto> fill)
    {
        var attribute = new Proto();
        attribute.Add(1, name);
        fill(attribute);
        attribute.Add(20, type);
        return attribute;
    }

    private void Number(long value)
    {
        for (var left = (ulong)value; ; left >>= 7)
        {
            if (left < 128)
            {
                bytes.WriteByte((byte)left);
                return;
            }
            bytes.WriteByte((byte)(left | 128));
        }
    }
}
