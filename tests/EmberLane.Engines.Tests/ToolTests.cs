namespace EmberLane.Engines.Tests;

public sealed class ToolTests
{
    [Fact]
    public async Task What_a_program_prints_comes_line_by_line()
    {
        var lines = new List<string>();
        await Tool.RunAsync("printf", ["one\\ntwo\\n"], TimeSpan.FromSeconds(30), lines.Add, CancellationToken.None);
        Assert.Equal(["one", "two"], lines);
    }

    [Fact]
    public async Task Arguments_are_words_and_never_a_shell() =>
        Assert.Equal("$(id); a b", await Tool.ReadAsync("printf", ["%s", "$(id); a b"], TimeSpan.FromSeconds(30), CancellationToken.None));

    [Fact]
    public async Task A_program_that_fails_is_told_of_with_its_code_and_the_end_of_its_complaints()
    {
        var failed = await Assert.ThrowsAsync<ToolException>(() =>
            Tool.ReadAsync("ls", ["/nowhere/at/all"], TimeSpan.FromSeconds(30), CancellationToken.None)
        );
        Assert.Contains("ls failed (exit code 2)", failed.Message, StringComparison.Ordinal);
        Assert.Contains("/nowhere/at/all", failed.Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task One_that_is_missing_or_takes_too_long_says_so_and_a_cancelled_one_is_cancelled()
    {
        Assert.Contains(
            "is not installed",
            (
                await Assert.ThrowsAsync<ToolException>(() =>
                    Tool.ReadAsync("no-such-program", [], TimeSpan.FromSeconds(30), CancellationToken.None)
                )
            ).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "took longer than",
            (
                await Assert.ThrowsAsync<ToolException>(() =>
                    Tool.ReadAsync("sleep", ["600"], TimeSpan.FromSeconds(1), CancellationToken.None)
                )
            ).Message,
            StringComparison.Ordinal
        );
        using var cancel = new CancellationTokenSource(TimeSpan.FromMilliseconds(300));
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() =>
            Tool.ReadAsync("sleep", ["600"], TimeSpan.FromMinutes(20), cancel.Token)
        );
    }

    [Fact]
    public async Task One_that_prints_without_end_is_stopped() =>
        Assert.Contains(
            "printed more than 64 MB",
            (
                await Assert.ThrowsAsync<ToolException>(() =>
                    Tool.ReadAsync("yes", ["without end"], TimeSpan.FromMinutes(5), CancellationToken.None)
                )
            ).Message,
            StringComparison.Ordinal
        );
}
