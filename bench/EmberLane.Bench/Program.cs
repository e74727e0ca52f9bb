using EmberLane.Bench;

// ember bench [gather|speech|voices|typed|sync|loose|hundred|thousand|time|read|crash|hostile|fuzz …] and ember shots; lengths, unrelated
// and direct are parts of sync, hour and long-voices of voices that can be asked for alone; real-voices, real-tuning, real-words,
// pauses, odd and learn-voices fetch voices of real people from Debian's packages, and learn-voices writes what the core ships of
// them; scorers needs sctk; demo-texts writes the texts of the demonstration anew. The first argument is the repository.
var keep = args is [.., "--keep", var folder] ? folder : null;
if (keep is not null)
{
    args = args[..^2];
}
var names = args.Length > 1 ? args[1..] : ["time", "gather", "sync", "read", "speech", "voices", "typed"];
foreach (var name in names)
{
    switch (name)
    {
        case "speech":
            await SpeechBench.RunAsync(args[0]);
            break;
        case "sync":
            await SyncBench.RunAsync(args[0]);
            break;
        case "gather":
            await GatherBench.RunAsync();
            break;
        case "unrelated":
            await SyncBench.UnrelatedAsync(args[0]);
            break;
        case "direct":
            await SyncBench.DirectAsync(args[0]);
            break;
        case "lengths":
            await SyncBench.LengthsAsync(args[0]);
            break;
        case "voices":
            await VoicesBench.RunAsync(args[0]);
            break;
        case "real-voices":
            await VoicesBench.RealAsync(args[0], tuning: false);
            break;
        case "real-tuning":
            await VoicesBench.RealAsync(args[0], tuning: true);
            break;
        case "real-words":
            await SpeechBench.RealAsync(args[0]);
            break;
        case "learn-voices":
            await VoiceLearning.RunAsync(args[0]);
            break;
        case "long-voices":
            await VoicesBench.LongAsync(args[0]);
            break;
        case "retakes":
            RetakesBench.Run();
            break;
        case "tidy":
            await TidyBench.RunAsync(args[0]);
            break;
        case "fillers":
            await FillersBench.RunAsync(args[0]);
            break;
        case "script":
            ScriptBench.Run();
            break;
        case "hour":
            await HourBench.RunAsync(args[0]);
            break;
        case "odd":
            await OddBench.RunAsync(args[0]);
            break;
        case "scorers":
            await ScorersBench.RunAsync();
            break;
        case "pauses":
            await PausesBench.RunAsync(args[0]);
            break;
        case "typed":
            TypedBench.Run(args[0]);
            break;
        case "time":
            TimeBench.Run();
            break;
        case "read":
            await ReadBench.RunAsync();
            break;
        case "loose":
            await LooseBench.RunAsync(args[0]);
            break;
        case "find":
            await FindBench.RunAsync(667, keep);
            break;
        case "pictures":
            await PicturesBench.RunAsync(args[0]);
            break;
        case "seams":
            await SeamsBench.RunAsync(args[0]);
            break;
        case "story":
            await StoryBench.RunAsync(args[0]);
            break;
        case "cameras":
            CamerasBench.Run();
            break;
        case "handoff":
            await HandoffBench.RunAsync();
            break;
        case "copies":
            await CopiesBench.RunAsync();
            break;
        case "parts":
            PartsBench.Run();
            break;
        case "names":
            await NamesBench.RunAsync(args[0]);
            break;
        case "hundred":
            await HundredBench.RunAsync(60, keep);
            break;
        case "thousand":
            await HundredBench.RunAsync(667, keep);
            break;
        case "crash":
            await Drills.CrashAsync();
            break;
        case "workers":
            await WorkersBench.RunAsync(args[0]);
            break;
        case "people":
            await PeopleBench.RunAsync();
            break;
        case "hostile":
            await Drills.HostileAsync();
            break;
        case "fuzz":
            Drills.Fuzz();
            break;
        case "demo-texts":
            DemoTexts.Write(args[0]);
            break;
        case "shots":
            await Screenshots.TakeAsync(args[0]);
            break;
        default:
            await Console.Error.WriteLineAsync(
                $"There is no bench called {name}. Known are gather, speech, voices, real-voices, real-tuning, real-words, learn-voices, "
                    + "pauses, tidy, retakes, script, hour, odd, scorers, long-voices, typed, sync, direct, lengths, unrelated, loose, "
                    + "hundred, thousand, crash, people, workers, "
                    + "hostile, fuzz, time, read, find, names, pictures, seams, story, parts, fillers and shots."
            );
            return 2;
    }
}
return 0;
