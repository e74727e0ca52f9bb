namespace EmberLane.Web.Work;

/// <summary>Tells everyone who listens that background work has moved on, or a text was changed.</summary>
public sealed class WorkNews
{
    private TaskCompletionSource next = new(TaskCreationOptions.RunContinuationsAsynchronously);

    /// <summary>Completes at the next news.</summary>
    public Task NextAsync() => Volatile.Read(ref next).Task;

    public void Tell() => Interlocked.Exchange(ref next, new TaskCompletionSource(TaskCreationOptions.RunContinuationsAsynchronously)).SetResult();

    /// <summary>Tells once this answer is on its way, so that the page that asked knows its own change before it hears of it.</summary>
    public void TellAfter(HttpResponse response) => response.OnCompleted(() =>
    {
        Tell();
        return Task.CompletedTask;
    });
}
