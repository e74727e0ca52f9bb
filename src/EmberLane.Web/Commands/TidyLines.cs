using System.Globalization;
using System.Text;
using EmberLane.Core.Tidy;
using EmberLane.Web.Rooms;

namespace EmberLane.Web.Commands;

/// <summary>What tidying found, for a person at a terminal: how much of each, then a line each.</summary>
internal static class TidyLines
{
    public static string Of(Talk talk, TidyFindings found)
    {
        var text = new StringBuilder();
        string[] counts =
        [
            Many.Of(found.Pauses.Count, "pause"),
            Many.Of(found.Hesitations.Count + found.Sounds.Count, "hesitation"),
            Many.Of(found.Retakes.Count, "retake"),
            Many.Of(found.Cues.Count, "cue"),
        ];
        Line($"{string.Join(", ", counts)}");
        foreach (var pause in found.Pauses)
        {
            Line($"{pause.In} pause of {pause.Length}");
        }
        foreach (var (hesitation, clips) in found.Hesitations)
        {
            var neighbour = clips ? " (would clip a neighbour)" : "";
            Line($"{At(hesitation.First)} {TidyJson.KindOf(hesitation.Kind)}: {Said(hesitation.First, hesitation.Last)}{neighbour}");
        }
        foreach (var sound in found.Sounds)
        {
            Line($"{sound.Stretch.In} sound of {sound.Stretch.Length} that no word stands for, behind {Said(sound.After, sound.After)}");
        }
        foreach (var retake in found.Retakes)
        {
            Line($"{At(retake.Attempts[0].First)} retake; proposed is {retake.Best + 1}, {retake.Reason}");
            foreach (var (attempt, n) in retake.Attempts.Select((a, n) => (a, n + 1)))
            {
                Line($"    {n}. {At(attempt.First)} {Said(attempt.First, attempt.Last)}");
            }
        }
        foreach (var cue in found.Cues)
        {
            Line($"{At(cue.First)} cue “{cue.Cue.Phrase}”, which {TidyJson.UseOf(cue.Cue.Use)}: {Said(cue.First, cue.Last)}");
        }
        foreach (var (line, takes, best) in found.Script)
        {
            Line($"line {line.Number}: {(takes.Count == 0 ? "missing" : Many.Of(takes.Count, "take"))}: {line.Text}");
            foreach (var (take, n) in takes.Select((t, n) => (t, n)))
            {
                Line($"    {At(take.First)} {take.Score:0%}{(n == best ? ", proposed" : "")} {Said(take.First, take.Last)}");
            }
        }
        return text.ToString();

        void Line(FormattableString line) => text.Append(line.ToString(CultureInfo.InvariantCulture)).Append('\n');

        string At(int word) => talk.Words[word].In.ToString();

        string Said(int first, int last) => string.Join(' ', talk.Words.Skip(first).Take(last - first + 1).Select(w => w.Text));
    }
}
