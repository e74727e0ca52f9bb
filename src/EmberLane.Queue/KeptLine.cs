using EmberLane.Engines;

namespace EmberLane.Queue;

/// <summary>
/// A line that is kept: what needs it is tried again until it is done, and what is wrong with it meanwhile is said once, each time that it
/// is something else.
/// </summary>
internal sealed class KeptLine(QueueLine line, TimeSpan again, Action<string, Exception> say)
{
    /// <summary>What is wrong just now, for a person; null when nothing is.</summary>
    public string? Trouble { get; private set; }

    /// <summary>Nothing is wrong any more.</summary>
    public void IsWell() => Trouble = null;

    /// <summary>Does something until it is done. Throws what is not of the line, and when it is cancelled.</summary>
    public async Task UntilDoneAsync(Func<Task> act, CancellationToken cancel)
    {
        while (true)
        {
            try
            {
                await act();
                IsWell();
                return;
            }
            catch (Exception e) when (QueueLine.IsOfLine(e) && !cancel.IsCancellationRequested)
            {
                await WaitAsync(e, cancel);
            }
        }
    }

    /// <summary>Does something until it is stopped, whatever the line does: it is begun anew after each trouble.</summary>
    public async Task AlwaysAsync(Func<CancellationToken, Task> act, CancellationToken stop)
    {
        while (!stop.IsCancellationRequested)
        {
            try
            {
                await line.WhileItIsAsync(act, stop);
            }
            catch (Exception e) when (!stop.IsCancellationRequested)
            {
                await WaitAsync(e, stop);
            }
            catch (OperationCanceledException)
            {
                return;
            }
        }
    }

    private async Task WaitAsync(Exception e, CancellationToken cancel)
    {
        var said = line.Words(e);
        if (Trouble != said)
        {
            Trouble = said;
            say(said, e);
        }
        try
        {
            await Task.Delay(again, cancel);
            await line.OpenAsync(cancel);
        }
        catch (ToolException still) when (!cancel.IsCancellationRequested)
        {
            Trouble = still.Message;
        }
    }
}
