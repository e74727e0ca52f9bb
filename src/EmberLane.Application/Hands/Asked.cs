using System.Text.Json;

namespace EmberLane.Application.Hands;

/// <summary>What an errand asks, as it is read where it is done.</summary>
internal static class Asked
{
    /// <summary>Throws <see cref="FormatException"/> where it is not of that kind.</summary>
    public static T Read<T>(Errand errand)
        where T : class
    {
        try
        {
            return JsonSerializer.Deserialize<T>(errand.Asked, Strict)
                ?? throw new FormatException($"Work of the kind “{errand.Kind}” asks nothing.");
        }
        catch (JsonException odd)
        {
            throw new FormatException($"Work of the kind “{errand.Kind}” asks something that can not be read.", odd);
        }
    }

    /// <summary>Refuses what is missing: a worker does not guess.</summary>
    private static readonly JsonSerializerOptions Strict = new()
    {
        RespectNullableAnnotations = true,
        RespectRequiredConstructorParameters = true,
    };

    /// <summary>The file of footage that it looks at.</summary>
    public static string Footage(Errand errand) =>
        errand.Footage ?? throw new FormatException($"Work of the kind “{errand.Kind}” names no file.");

    /// <summary>Where the made file goes.</summary>
    public static string Output(Errand errand) =>
        errand.Output ?? throw new FormatException($"Work of the kind “{errand.Kind}” names no place for what it makes.");
}
