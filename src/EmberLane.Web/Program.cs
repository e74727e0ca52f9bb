using EmberLane.Application.Demo;
using EmberLane.Store;
using EmberLane.Web;
using EmberLane.Web.Commands;

// ember serve|demo … : the server. ember transcribe, sync, add and rebuild: the same work from the command line.
try
{
    if (args is ["transcribe", ..])
    {
        return await TranscribeCommand.RunAsync(args[1..], Console.Out, CancellationToken.None);
    }
    if (args is ["sync", ..])
    {
        return await SyncCommand.RunAsync(args[1..], Console.Out, CancellationToken.None);
    }
    if (args is ["rebuild", ..])
    {
        return await RebuildCommand.RunAsync(args[1..], Console.Out);
    }
    if (args is ["add", ..])
    {
        return await AddCommand.RunAsync(args[1..], Console.Out, CancellationToken.None);
    }
    var options = EmberLane.Application.Options.Parse(args is ["serve", ..] ? args[1..] : args);
    var app = Server.Build(options);
    if (options.Demo is { } demo)
    {
        await app.Services.GetRequiredService<DemoProduction>().PrepareAsync(demo, Console.Out, CancellationToken.None);
    }
    await app.StartAsync();
    Console.WriteLine($"Ember Lane is ready: http://{options.Address}:{options.Port}");
    await app.WaitForShutdownAsync();
    return 0;
}
catch (Exception e)
    when (e
            is ArgumentException
                or StoreException
                or Microsoft.Data.Sqlite.SqliteException
                or EmberLane.Engines.ToolException
                or EmberLane.Engines.UnreadableMediaException
                or IOException
                or UnauthorizedAccessException
                or System.Text.Json.JsonException
                or System.Net.Sockets.SocketException
    )
{
    await Console.Error.WriteLineAsync(ErrorWords.Of(e));
    return 2;
}
