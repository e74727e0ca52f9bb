namespace EmberLane.Application.Work;

/// <summary>Tells everyone who listens that background work has moved on, or a text was changed.</summary>
public sealed class WorkNews
{
    private TaskCompletionSource next = new(TaskCreationOptions.RunContinuationsAsynchronously);

    /// <summary>Completes at the next news.</summary>
    public Task NextAsync() => Volatile.Read(ref next).Task;

    public void Tell() => Interlocked.Exchange(ref next, new TaskCompletionSource(TaskCreationOptions.RunContinuationsAsynchronously)).SetResult();
}
