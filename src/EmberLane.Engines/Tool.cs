using System.Text;
using CliWrap;
using CliWrap.Exceptions;

namespace EmberLane.Engines;

/// <summary>
/// A program outside failed, is missing, or took too long. The message is for a person and ends with what the program said last.
/// </summary>
public sealed class ToolException(string message, Exception? inner = null) : Exception(message, inner);

/// <summary>
/// Runs programs outside: arguments as a list, a time limit, cancellation that ends the program, and the end of its complaints in the
/// error.
/// </summary>
public static class Tool
{
    private const int Kept = 600;

    /// <summary>What a program may print where all of it is read (64 million letters): a sitting's words take less than a tenth.</summary>
    private const int MostPrinted = 64_000_000;

    /// <summary>
    /// Runs to the end and hands each line of standard output to <paramref name="onLine"/>. Throws <see cref="ToolException"/> when the
    /// program is missing, fails or takes longer than <paramref name="limit"/>, and <see cref="OperationCanceledException"/> when
    /// <paramref name="cancel"/> ends it.
    /// </summary>
    public static Task RunAsync(
        string program,
        IReadOnlyList<string> arguments,
        TimeSpan limit,
        Action<string> onLine,
        CancellationToken cancel
    ) => RunAsync(program, arguments, limit, command => command.WithStandardOutputPipe(PipeTarget.ToDelegate(onLine)), cancel);

    /// <summary>
    /// As <see cref="RunAsync(string, IReadOnlyList{string}, TimeSpan, Action{string}, CancellationToken)"/>, with standard input written
    /// by <paramref name="input"/> and standard output given on as bytes.
    /// </summary>
    public static Task PipeAsync(
        string program,
        IReadOnlyList<string> arguments,
        TimeSpan limit,
        Func<Stream, CancellationToken, Task>? input,
        Stream output,
        CancellationToken cancel
    ) =>
        RunAsync(
            program,
            arguments,
            limit,
            command =>
                command
                    .WithStandardOutputPipe(PipeTarget.ToStream(output))
                    .WithStandardInputPipe(input is null ? PipeSource.Null : PipeSource.Create(input)),
            cancel
        );

    private static async Task RunAsync(
        string program,
        IReadOnlyList<string> arguments,
        TimeSpan limit,
        Func<Command, Command> pipes,
        CancellationToken cancel
    )
    {
        using var timer = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        timer.CancelAfter(limit);
        var complaints = new StringBuilder();
        if (Programs.Find(program) is not { } found)
        {
            throw Missing(program, null);
        }
        try
        {
            Watchdog.Ready();
            await pipes(Cli.Wrap(Watchdog.OwnGroup).WithArguments([found, .. arguments]))
                .WithEnvironmentVariables(its => its.Set(Watchdog.Mark.Name, Watchdog.Mark.Value))
                .WithStandardErrorPipe(PipeTarget.ToDelegate(line => Keep(complaints, line)))
                .ExecuteAsync(timer.Token);
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            throw new ToolException($"{Path.GetFileName(program)} took longer than {limit.TotalMinutes:0.#} minutes and was stopped.");
        }
        catch (CommandExecutionException failed)
        {
            var said = complaints.ToString().Trim();
            throw new ToolException(
                $"{Path.GetFileName(program)} failed (exit code {failed.ExitCode}){(said.Length > 0 ? ": " + said : ".")}",
                failed
            );
        }
        catch (System.ComponentModel.Win32Exception missing)
        {
            throw Missing(program, missing);
        }
    }

    private static ToolException Missing(string program, Exception? why) =>
        new($"{Path.GetFileName(program)} is not installed, or can not be started. ./ember demo installs it.", why);

    /// <summary>
    /// As <see cref="RunAsync(string, IReadOnlyList{string}, TimeSpan, Action{string}, CancellationToken)"/>, and returns all of standard
    /// output; a program that prints without end is stopped.
    /// </summary>
    public static async Task<string> ReadAsync(string program, IReadOnlyList<string> arguments, TimeSpan limit, CancellationToken cancel)
    {
        using var output = new CappedStream(MostPrinted);
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        output.Over = stop.Cancel;
        try
        {
            await PipeAsync(program, arguments, limit, null, output, stop.Token);
        }
        catch (OperationCanceledException) when (output.IsOver && !cancel.IsCancellationRequested)
        {
            throw new ToolException($"{Path.GetFileName(program)} printed more than {MostPrinted / 1_000_000} MB and was stopped.");
        }
        return output.ToString();
    }

    private static void Keep(StringBuilder complaints, string line)
    {
        complaints.Append(line).Append('\n');
        if (complaints.Length > Kept)
        {
            complaints.Remove(0, complaints.Length - Kept);
        }
    }
}
