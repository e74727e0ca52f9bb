using System.Globalization;
using System.Text.Json;
using CliWrap;
using EmberLane.Footage;

// Makes the demonstration footage: dotnet run --project demo/EmberLane.Footage -- SCRIPT_FOLDER OUT_FOLDER
// Recorder channels are kept as FLAC, one file a mic, with the recorder's sheet beside them; `ember demo` lays them into the
// polyphonic Broadcast WAV that the recorder wrote.
string scripts = args[0],
    output = args[1];
var work = Directory.CreateTempSubdirectory("ember-footage").FullName;
Directory.CreateDirectory(output);
var json = new JsonSerializerOptions
{
    WriteIndented = false,
    Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
};
var only = args.Length > 2 ? args[2] : null;
foreach (var sitting in Plan.Sittings.Where(s => only is null || s.Key == only))
{
    Console.WriteLine(sitting.Title);
    var talk = await Room.SpeakAsync(Script.Read(Path.Combine(scripts, sitting.Key + ".txt")), sitting.People, work);
    Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  {talk.Words.Count} words, {talk.Seconds:F1} s"));
    if (sitting.Recorder is { } recorder)
    {
        var mics = recorder
            .Mics.Select(
                (mic, i) =>
                    (
                        mic,
                        sound: Room.Hear(talk, mic, recorder.Start, talk.Seconds, 0, 100 + i),
                        file: FormattableString.Invariant($"{Path.GetFileNameWithoutExtension(recorder.File)}.{i + 1}.flac")
                    )
            )
            .ToList();
        foreach (var (_, sound, file) in mics)
        {
            var wav = Path.Combine(work, "mic.wav");
            WavFile.Write(wav, [sound], Room.Rate);
            await Cli.Wrap("ffmpeg")
                .WithArguments([
                    "-v",
                    "error",
                    "-y",
                    "-i",
                    wav,
                    "-c:a",
                    "flac",
                    "-compression_level",
                    "12",
                    "-fflags",
                    "+bitexact",
                    "-flags:a",
                    "+bitexact",
                    Path.Combine(output, file),
                ])
                .ExecuteAsync();
        }
        File.WriteAllText(
            Path.Combine(output, Path.GetFileNameWithoutExtension(recorder.File) + ".recorder.json"),
            JsonSerializer.Serialize(
                new
                {
                    file = recorder.File,
                    startsAt = recorder.StartsAt,
                    channels = mics.Select(m => new { name = m.mic.Name, m.file }),
                },
                json
            ) + "\n"
        );
    }
    var clips = new List<object>();
    foreach (var (clip, i) in sitting.Clips.Select((c, i) => (c, i)))
    {
        Console.WriteLine("  " + clip.File);
        var sound = Room.Hear(talk, clip.Mic, clip.Start, Math.Min(clip.End, talk.Seconds - (i * 1.3)), clip.Ppm, 200 + i);
        Film.Shoot(Path.Combine(output, clip.File), sitting.Place, sitting.People, talk, clip, sound, work);
        clips.Add(
            new
            {
                file = clip.File,
                offsetSeconds = clip.Start - (sitting.Recorder?.Start ?? 0),
                driftPpm = clip.Ppm,
            }
        );
    }
    File.WriteAllText(
        Path.Combine(output, sitting.Key + ".truth.json"),
        JsonSerializer.Serialize(
            new
            {
                sitting = sitting.Title,
                reference = sitting.Recorder?.File ?? sitting.Clips[0].File,
                seconds = Math.Round(talk.Seconds, 4),
                clips,
                words = talk.Words.Select(w => new
                {
                    t = w.Text,
                    s = Math.Round(w.Start, 3),
                    e = Math.Round(w.End, 3),
                    v = w.Who,
                }),
            },
            json
        ) + "\n"
    );
}
if (only is null or "loose")
{
    var said = Script.Read(Path.Combine(scripts, "loose.txt"));
    foreach (var (file, rate, timecode, key, place, speaker) in Plan.Loose)
    {
        var line = said.Single(l => l.Who == key) with { Who = speaker.Key };
        var talk = await Room.SpeakAsync([line], [speaker], work);
        var clip = new Clip(
            file,
            rate,
            timecode,
            Path.GetFileNameWithoutExtension(file),
            0,
            9999,
            0,
            480,
            270,
            1,
            false,
            Plan.CameraMic(0.05)
        );
        Film.Shoot(Path.Combine(output, file), place, [], null, clip, Room.Hear(talk, clip.Mic, 0, 9999, 0, 300), work);
    }
}
Directory.Delete(work, true);
