using System.Buffers;
using System.Text.Encodings.Web;
using System.Text.Json;

namespace EmberLane.Core.Tidy;

/// <summary>
/// What tidying finds, as JSON: places of words as the file that was read counts them, from 0, and seconds with three decimals, as
/// docs/formats.md says.
/// </summary>
public static class TidyJson
{
    private static readonly JsonWriterOptions Plain = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping, Indented = true };

    /// <summary>The kind of a hesitation as it is written.</summary>
    public static string KindOf(HesitationKind kind) =>
        kind switch
        {
            HesitationKind.Filled => "filled",
            HesitationKind.Phrase => "phrase",
            HesitationKind.Like => "like",
            HesitationKind.Twice => "twice",
            HesitationKind.Broken => "broken",
            _ => "false start",
        };

    /// <summary>What a cue does as it is written.</summary>
    public static string UseOf(CueUse use) =>
        use switch
        {
            CueUse.KeepsBefore => "keeps what is before it",
            CueUse.KeepsAfter => "keeps what is after it",
            CueUse.SetsAsideBefore => "sets aside what is before it",
            _ => "begins a part",
        };

    /// <summary>
    /// <paramref name="place"/> tells where a word of the talk stands in the file.
    /// </summary>
    public static string Write(Talk talk, TidyFindings found, Func<int, int> place)
    {
        var buffer = new ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(buffer, Plain))
        {
            json.WriteStartObject();
            List("pauses", found.Pauses, p => Range(p.In, p.Out));
            json.WriteStartArray("hesitations");
            var sounds = new Queue<FilledSound>(found.Sounds);
            foreach (var (hesitation, clips) in found.Hesitations)
            {
                while (sounds.TryPeek(out var sound) && sound.After < hesitation.First)
                {
                    Sound(sounds.Dequeue());
                }
                json.WriteStartObject();
                json.WriteString("kind", KindOf(hesitation.Kind));
                Words(hesitation.First, hesitation.Last);
                json.WriteBoolean("clips", clips);
                json.WriteEndObject();
            }
            foreach (var sound in sounds)
            {
                Sound(sound);
            }
            json.WriteEndArray();
            List(
                "retakes",
                found.Retakes,
                r =>
                {
                    List(
                        "attempts",
                        r.Attempts,
                        a =>
                        {
                            Words(a.First, a.Last);
                            json.WriteBoolean("whole", a.Whole);
                        }
                    );
                    json.WriteNumber("best", r.Best);
                    json.WriteString("reason", r.Reason);
                }
            );
            List(
                "cues",
                found.Cues,
                c =>
                {
                    json.WriteString("cue", c.Cue.Phrase);
                    json.WriteString("does", UseOf(c.Cue.Use));
                    Words(c.First, c.Last);
                    Score(c.Score);
                }
            );
            List(
                "script",
                found.Script,
                l =>
                {
                    json.WriteNumber("line", l.Line.Number);
                    List(
                        "takes",
                        l.Takes,
                        t =>
                        {
                            Words(t.First, t.Last);
                            Score(t.Score);
                        }
                    );
                    if (l.Best is { } best)
                    {
                        json.WriteNumber("best", best);
                    }
                    else
                    {
                        json.WriteNull("best");
                    }
                }
            );
            json.WriteEndObject();

            void List<T>(string name, IEnumerable<T> items, Action<T> write)
            {
                json.WriteStartArray(name);
                foreach (var item in items)
                {
                    json.WriteStartObject();
                    write(item);
                    json.WriteEndObject();
                }
                json.WriteEndArray();
            }

            // No word is in it: the place before its first word comes after that of its last.
            void Sound(FilledSound sound)
            {
                json.WriteStartObject();
                json.WriteString("kind", "sound");
                json.WriteNumber("first", place(sound.After + 1));
                json.WriteNumber("last", place(sound.After));
                Range(sound.Stretch.In, sound.Stretch.Out);
                json.WriteBoolean("clips", false);
                json.WriteEndObject();
            }

            void Words(int first, int last)
            {
                json.WriteNumber("first", place(first));
                json.WriteNumber("last", place(last));
                Range(talk.Words[first].In, talk.Words[last].Out);
            }

            void Range(MediaTime from, MediaTime to)
            {
                json.WriteNumber("in", Seconds(from));
                json.WriteNumber("out", Seconds(to));
            }

            void Score(double score) => json.WriteNumber("score", decimal.Round((decimal)score, 3));
        }
        return System.Text.Encoding.UTF8.GetString(buffer.WrittenSpan) + "\n";
    }

    private static decimal Seconds(MediaTime at) => decimal.Round((decimal)at.Units / MediaTime.UnitsPerSecond, 3);
}
