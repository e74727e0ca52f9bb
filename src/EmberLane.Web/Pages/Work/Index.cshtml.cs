using EmberLane.Application.Hands;
using EmberLane.Application.Work;
using EmberLane.Core.People;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Work;

/// <summary>Work in hand: what runs, waits, failed and is done.</summary>
[Needs(Rights.Log | Rights.Order | Rights.HandOff)]
public sealed class IndexModel : LiveRoom
{
    private readonly Jobs jobs;
    private readonly News news;
    private readonly IServiceProvider services;
    private readonly TimeProvider time;

    public IndexModel(Footage footage, Desk desk, Jobs jobs, News news, IServiceProvider services, TimeProvider time)
        : base(footage, desk)
    {
        (this.jobs, this.news, this.services, this.time) = (jobs, news, services, time);
    }

    public override string Room => "Work";

    /// <summary>Whether heavy work is done by workers; then they are shown.</summary>
    public bool HasWorkers => services.GetRequiredService<IHands>().AtOnce is not null;

    /// <summary>The workers that were heard of, by name.</summary>
    public IReadOnlyList<WorkerLine> Workers => [.. services.GetRequiredService<IHands>().Workers.Select(w => new WorkerLine(w))];

    /// <summary>What keeps work from going on just now; null when nothing does.</summary>
    public string? Trouble => services.GetRequiredService<WorkLoop>().Trouble;

    /// <summary>
    /// When something ended, in this machine's time: the hour today, with the day before that; empty when it is not known.
    /// </summary>
    public string Moment(long ended) => Moments.Of(ended, time);

    /// <summary>What is listed: what runs, waits or failed, and what has ended.</summary>
    public (IReadOnlyList<Job> Open, IReadOnlyList<Job> Ended) Listed()
    {
        var all = Desk.WorkInHand(Production.Id);
        return ([.. all.Where(j => !IsEnded(j))], [.. all.Where(IsEnded)]);
    }

    private static bool IsEnded(Job job) => job.State is "done" or "cancelled";

    public void OnGet() { }

    public IActionResult OnGetList() => Partial("_List", this);

    public IActionResult OnPostCancel(long job) => On(job, () => services.GetRequiredService<WorkLoop>().Cancel(job));

    public IActionResult OnPostAgain(long job) =>
        On(
            job,
            () =>
            {
                jobs.TryAgain(job);
                news.Tell();
            }
        );

    /// <summary>Changes the order of what waits: this one next, or last.</summary>
    public IActionResult OnPostOrder(long job, bool first) =>
        On(
            job,
            () =>
            {
                jobs.Reorder(job, first);
                news.Tell();
            }
        );

    public IActionResult OnPostAllAgain()
    {
        jobs.TryAllAgain(Production.Id);
        news.Tell();
        return IsFragment ? new NoContentResult() : Redirect(FormattableString.Invariant($"/productions/{Production.Id}/work"));
    }

    private IActionResult On(long job, Action change)
    {
        if (jobs.Get(job)?.ProductionId != Production.Id)
        {
            return NotFound();
        }
        change();
        return IsFragment ? new NoContentResult() : Redirect(FormattableString.Invariant($"/productions/{Production.Id}/work"));
    }
}
