using EmberLane.Running;

namespace EmberLane.Web.Tests;

/// <summary>Small runs of the drills that <c>./ember bench crash</c> and <c>fuzz</c> do at length.</summary>
public sealed class DrillTests
{
    [Fact]
    public async Task A_server_killed_at_random_moments_has_every_change_that_it_acknowledged()
    {
        using var drill = new CrashDrill(7);
        // A busy machine may not answer one change between the start of a server and its end.
        for (var n = 0; n < 4 || (drill.Acknowledged == 0 && n < 40); n++)
        {
            await drill.KillOnceAsync();
        }
        await drill.KillMigratingAsync();
        Assert.InRange(drill.Acknowledged, 1, int.MaxValue);
    }

    [Fact]
    public void Readers_read_or_refuse_what_has_faults_in_it_and_throw_nothing_else()
    {
        var found = new Fuzzer(11).Run(11_000, Patience.Of(10));
        Assert.True(found.Count == 0, string.Join('\n', found.Select(f => $"{f.Reader}: {f.Outcome}: {Convert.ToBase64String(f.Input)}")));
    }
}
