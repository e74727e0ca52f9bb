using System.Text;
using CliWrap;
using CliWrap.Exceptions;

namespace EmberLane.Engines;

/// <summary>A program outside failed, is missing, or took too long. The message is for a person and ends with what the program said last.</summary>
public sealed class ToolException(string message, Exception? inner = null) : Exception(message, inner);

/// <summary>Runs programs outside: arguments as a list, a time limit, cancellation that ends the program, and the end of its complaints in the error.</summary>
public static class Tool
{
    private const int Kept = 600;

    /// <summary>
    /// Runs to the end and hands each line of standard output to <paramref name="onLine"/>. Throws <see cref="ToolException"/> when the program is missing, fails or
    /// takes longer than <paramref name="limit"/>, and <see cref="OperationCanceledException"/> when <paramref name="cancel"/> ends it.
    /// </summary>
    public static Task RunAsync(string program, IReadOnlyList<string> arguments, TimeSpan limit, Action<string> onLine, CancellationToken cancel) =>
        RunAsync(program, arguments, limit, command => command.WithStandardOutputPipe(PipeTarget.ToDelegate(onLine)), cancel);

    /// <summary>As <see cref="RunAsync(string, IReadOnlyList{string}, TimeSpan, Action{string}, CancellationToken)"/>, with standard input written by <paramref name="input"/> and standard output given on as bytes.</summary>
    public static Task PipeAsync(string program, IReadOnlyList<string> arguments, TimeSpan limit, Func<Stream, CancellationToken, Task>? input, Stream output, CancellationToken cancel) =>
        RunAsync(program, arguments, limit, command => command.WithStandardOutputPipe(PipeTarget.ToStream(output)).WithStandardInputPipe(input is null ? PipeSource.Null : PipeSource.Create(input)), cancel);

    private static async Task RunAsync(string program, IReadOnlyList<string> arguments, TimeSpan limit, Func<Command, Command> pipes, CancellationToken cancel)
    {
        using var timer = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        timer.CancelAfter(limit);
        var complaints = new StringBuilder();
        try
        {
            await pipes(Cli.Wrap(program).WithArguments(arguments))
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
            throw new ToolException($"{Path.GetFileName(program)} failed (exit code {failed.ExitCode}){(said.Length > 0 ? ": " + said : ".")}", failed);
        }
        catch (System.ComponentModel.Win32Exception missing)
        {
            throw new ToolException($"{Path.GetFileName(program)} is not installed, or can not be started. ./ember demo installs it.", missing);
        }
    }

    /// <summary>As <see cref="RunAsync"/>, and returns all of standard output.</summary>
    public static async Task<string> ReadAsync(string program, IReadOnlyList<string> arguments, TimeSpan limit, CancellationToken cancel)
    {
        var output = new StringBuilder();
        await RunAsync(program, arguments, limit, line => output.Append(line).Append('\n'), cancel);
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
