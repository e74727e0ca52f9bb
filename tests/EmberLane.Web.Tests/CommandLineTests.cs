using EmberLane.Web.Commands;

namespace EmberLane.Web.Tests;

/// <summary>How commands are asked for, and what they answer to what they do not understand.</summary>
public sealed class CommandLineTests
{
    [Theory]
    [InlineData("", "serve", "add <FOLDER>", "transcribe <FILE>", "sync <FILE>", "rebuild")]
    [InlineData("serve", "--port", "--address", "--data <DIR>", "--footage", "--recogniser-command <PROGRAM>")]
    [InlineData("add", "<FOLDER>", "--production <NAME> (REQUIRED)", "--data <DIR>")]
    [InlineData("transcribe", "<FILE>...", "--sitting", "--voices <N|auto>", "--out <FILE>")]
    [InlineData("sync", "<FILE>...", "The first is the reference", "--json")]
    [InlineData("rebuild", "--data <DIR>")]
    public async Task Help_lists_what_a_command_takes(string command, params string[] listed)
    {
        using var output = new StringWriter();
        Assert.Equal(
            0,
            await CommandLine.RunAsync(
                [.. command.Split(' ', StringSplitOptions.RemoveEmptyEntries), "--help"],
                output,
                CancellationToken.None
            )
        );
        Assert.All(listed, l => Assert.Contains(l, output.ToString(), StringComparison.Ordinal));
        Assert.DoesNotContain("--script", output.ToString(), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("See: ember --help")]
    [InlineData("'frob'", "frob")]
    [InlineData("See: ember sync --help", "sync", "one.wav")]
    [InlineData("--all is not an option here", "sync", "one.wav", "two.wav", "--all")]
    [InlineData("Several files need --sitting", "transcribe", "a.wav", "b.wav")]
    [InlineData("--voices takes auto or a number from 1 to 20, not “many”", "transcribe", "a.wav", "--voices", "many")]
    [InlineData("not “21”", "transcribe", "a.wav", "--voices", "21")]
    [InlineData("--all is not an option here", "transcribe", "--all")]
    [InlineData("'--out'", "transcribe", "a.wav", "--out")]
    [InlineData("'--production' is required", "add", "day")]
    [InlineData("'--production'", "add", "day", "--production")]
    [InlineData("a name of 1 to 120 characters", "add", "day", "--production", " ")]
    [InlineData("See: ember add --help", "add", "--production", "Slack Water")]
    [InlineData("'everything'", "rebuild", "everything")]
    [InlineData("--port 0: a port is a number from 1 to 65535", "serve", "--port", "0")]
    [InlineData("--port x: a port is a number from 1 to 65535", "serve", "--port", "x")]
    [InlineData("--footage /no/such: there is no such folder", "serve", "--footage", "/no/such")]
    public async Task What_is_not_understood_is_refused_with_a_sentence_and_the_way_to_the_help(string reason, params string[] arguments)
    {
        using var output = new StringWriter();
        var refused = await Assert.ThrowsAsync<ArgumentException>(() => CommandLine.RunAsync(arguments, output, CancellationToken.None));
        Assert.Contains(reason, refused.Message, StringComparison.Ordinal);
        Assert.Contains("--help", refused.Message, StringComparison.Ordinal);
        Assert.Equal("", output.ToString());
    }
}
