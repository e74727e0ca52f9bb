using System.CommandLine;
using EmberLane.Application.Backups;
using EmberLane.Application.People;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Web.Commands;

/// <summary>
/// <c>ember people [--data DIR] [--new-password NAME]</c>: who has an account; and, for who runs the server, a way back in for somebody who
/// forgot their password.
/// </summary>
internal static class PeopleCommand
{
    public static Command Make(TextWriter output)
    {
        var data = CommandLine.Data();
        var renew = new Option<string?>("--new-password")
        {
            Description = "Makes an address at which this account's owner chooses a new password, once, within two days.",
            HelpName = "NAME",
        };
        var command = new Command("people", "Who has an account, also while the server runs.") { data, renew };
        command.SetAction((asked, cancel) => RunAsync(asked.GetValue(data)!, asked.GetValue(renew), output, cancel));
        return command;
    }

    private static async Task<int> RunAsync(string data, string? renew, TextWriter output, CancellationToken cancel)
    {
        var path = Path.Combine(data, "ember.sqlite");
        if (!File.Exists(path))
        {
            throw new ArgumentException($"{data} is no data folder of Ember Lane: there is no {path}. Name it with --data.");
        }
        await using var services = new ServiceCollection()
            .AddSingleton(BackupShelf.Open(data))
            .AddSingleton(TimeProvider.System)
            .AddSingleton<Accounts>()
            .AddSingleton<Admissions>()
            .AddSingleton<Admitting>()
            .BuildServiceProvider();
        var accounts = services.GetRequiredService<Accounts>();
        if (renew is { } name)
        {
            var account = accounts.Named(name) ?? throw new ArgumentException($"Nobody has an account called “{name}”.");
            var secret = services.GetRequiredService<Admitting>().NewPassword(account, "the terminal");
            await output.WriteLineAsync($"Open this at the address of your Ember Lane, within two days: /join/{secret}".AsMemory(), cancel);
            return 0;
        }
        var all = accounts.All();
        if (all.Count == 0)
        {
            await output.WriteLineAsync("Nobody has an account yet.".AsMemory(), cancel);
        }
        foreach (var account in all)
        {
            var state =
                account.ClosedAt is not null ? "closed"
                : account.IsOwner ? "owner"
                : "open";
            await output.WriteLineAsync($"{account.Name}\t{state}".AsMemory(), cancel);
        }
        return 0;
    }
}
