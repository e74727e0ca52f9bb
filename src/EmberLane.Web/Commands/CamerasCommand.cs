using System.CommandLine;
using System.Globalization;
using System.Text;
using EmberLane.Core.Cameras;
using EmberLane.Core.Import;

namespace EmberLane.Web.Commands;

/// <summary><c>ember cameras SITTING.json [--json]</c>: which angle shows when, and which mics are open.</summary>
internal static class CamerasCommand
{
    private const long MostBytes = 100 << 20;

    public static Command Make(TextWriter output)
    {
        var sitting = new Argument<string>("SITTING.json")
        {
            Description = "Its seconds, angles, speech, crowd, locked and rules, as docs/formats.md says.",
        };
        var json = new Option<bool>("--json") { Description = "All of it as JSON; else a line each." };
        var command = new Command("cameras", "Which angle shows when, and which mics are open, by who speaks.") { sitting, json };
        command.SetAction(asked =>
        {
            var file = asked.GetValue(sitting)!;
            var (problem, plan) = CommandFiles.Named(
                file,
                () =>
                {
                    var read = CamerasJson.Read(TextFiles.Decode(CommandFiles.Bytes(file, MostBytes)));
                    return (read, CameraPlanner.Plan(read));
                }
            );
            var mics = MicPlan.Of(problem.Speech, problem.Length, problem.Rules);
            output.Write(asked.GetValue(json) ? CamerasJson.Write(problem, plan, mics) : Lines(problem, plan, mics));
            return 0;
        });
        return command;
    }

    private static string Lines(CameraProblem problem, CameraPlan plan, IReadOnlyList<OpenMic> mics)
    {
        var text = new StringBuilder();
        foreach (var shot in plan.Shots)
        {
            text.Append(
                CultureInfo.InvariantCulture,
                $"{shot.Range.In} – {shot.Range.Out}  {problem.Angles[shot.Angle].Name}: {shot.Reason}\n"
            );
        }
        foreach (var mic in mics)
        {
            text.Append(CultureInfo.InvariantCulture, $"{mic.Range.In} – {mic.Range.Out}  mic of {mic.Who}\n");
        }
        return text.Append(CultureInfo.InvariantCulture, $"{Application.Rooms.Many.Of(plan.Shots.Count, "shot")}, cost {plan.Points}\n")
            .ToString();
    }
}
