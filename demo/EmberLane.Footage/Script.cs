using System.Globalization;

namespace EmberLane.Footage;

/// <summary>One thing that is heard: a line of talk, or a sound when <see cref="Who"/> is "*".</summary>
internal sealed record Line(string Who, double Gap, string Text);

/// <summary>The script of a sitting, read from the text files in demo/script.</summary>
internal static class Script
{
    public static IReadOnlyList<Line> Read(string path)
    {
        var lines = new List<Line>();
        foreach (var raw in File.ReadLines(path))
        {
            var text = raw.Trim();
            if (text.Length == 0 || text[0] == '#')
            {
                continue;
            }
            if (text[0] == '*')
            {
                var parts = text[1..].Split(' ', StringSplitOptions.RemoveEmptyEntries);
                lines.Add(new Line("*", Seconds(parts[1]), parts[0]));
                continue;
            }
            var colon = text.IndexOf(':', StringComparison.Ordinal);
            var head = text[..colon].Split(' ');
            lines.Add(new Line(head[0], head.Length > 1 ? Seconds(head[1]) : 0.5, text[(colon + 1)..].Trim()));
        }
        return lines;
    }

    private static double Seconds(string text) => double.Parse(text, CultureInfo.InvariantCulture);
}
