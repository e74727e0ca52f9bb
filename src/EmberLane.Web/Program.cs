using EmberLane.Store;
using EmberLane.Web.Commands;

try
{
    return await CommandLine.RunAsync(args, Console.Out, CancellationToken.None);
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
