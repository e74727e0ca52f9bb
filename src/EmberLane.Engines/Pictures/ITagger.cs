using EmberLane.Core.Pictures;

namespace EmberLane.Engines.Pictures;

/// <summary>Something that says in words what a picture shows.</summary>
public interface ITagger
{
    /// <summary>Why it can not be used now, a sentence for a person; null when it can.</summary>
    string? WhyNot();

    /// <summary>The tags of a picture in a JPEG file. Throws <see cref="ToolException"/> with a sentence.</summary>
    Task<IReadOnlyList<PictureTag>> TagAsync(string jpegPath, CancellationToken cancel);
}

/// <summary>
/// A picture tagger that a studio already has: a program that gets the path of a JPEG file and answers with JSON, as
/// <see cref="PictureTag.Read"/> says. One that takes longer than <paramref name="limit"/> for a picture is stopped.
/// </summary>
public sealed class CommandTagger(string? program, TimeSpan limit) : ITagger
{
    /// <inheritdoc/>
    public string? WhyNot() =>
        program is null ? "No tagger is set. Start Ember Lane with --tagger-command PROGRAM."
        : Programs.Find(program) is null
            ? $"The tagger {program} is not there. Start Ember Lane with --tagger-command and a program that exists."
        : null;

    /// <inheritdoc/>
    public async Task<IReadOnlyList<PictureTag>> TagAsync(string jpegPath, CancellationToken cancel)
    {
        if (WhyNot() is { } reason)
        {
            throw new ToolException(reason);
        }
        var answer = await Tool.ReadAsync(program!, [jpegPath], limit, cancel);
        try
        {
            return PictureTag.Read(answer);
        }
        catch (FormatException bad)
        {
            throw new ToolException(
                $"The tagger {Path.GetFileName(program)} answered with something that can not be read. {bad.Message}",
                bad
            );
        }
    }
}

/// <summary>
/// A simulated tagger for trying it out. It does not look at what is shown: it answers with words for the main colours, the same each time.
/// </summary>
public sealed class SimulatedTagger : ITagger
{
    /// <inheritdoc/>
    public string? WhyNot() => null;

    /// <inheritdoc/>
    public async Task<IReadOnlyList<PictureTag>> TagAsync(string jpegPath, CancellationToken cancel)
    {
        var colours = PictureColours.Main([await PictureReader.JpegAsync(jpegPath, cancel)]);
        return
        [
            .. colours
                .SelectMany((c, i) => Words(c).Select((w, k) => new PictureTag(w, new PerMille(900 - (100 * i) - (70 * k)))))
                .DistinctBy(t => t.Tag),
        ];
    }

    private static string[] Words(PictureColour colour) =>
        colour switch
        {
            PictureColour.Blue or PictureColour.Teal => ["water", "sky"],
            PictureColour.Green => ["grass", "trees"],
            PictureColour.White => ["sky", "fog"],
            PictureColour.Grey => ["stone", "overcast"],
            PictureColour.Black => ["night", "shadow"],
            PictureColour.Brown => ["wood", "earth"],
            PictureColour.Orange or PictureColour.Yellow => ["lamp", "evening light"],
            _ => ["paint"],
        };
}
