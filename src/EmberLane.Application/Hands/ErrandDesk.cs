using EmberLane.Engines;
using EmberLane.Engines.Speech;

namespace EmberLane.Application.Hands;

/// <summary>
/// Does an errand of any kind with what is on this machine, in the server as well as in a worker. <paramref name="recogniser"/> finds the
/// recogniser that is asked for; null where this machine has none such.
/// </summary>
public sealed class ErrandDesk(Func<SpeechAsked, IRecogniser?> recogniser)
{
    /// <summary>
    /// The answer; the file that is made, if any, is whole then. Throws <see cref="FormatException"/> where what is asked can not be read,
    /// <see cref="ToolException"/> where it can not be done, <see cref="ErrandElsewhereException"/> where another machine may do it.
    /// </summary>
    public async Task<string> DoAsync(Errand errand, ErrandProgress progress, CancellationToken cancel) =>
        errand.Kind switch
        {
            ErrandKinds.Speech => await SpeechErrand.DoAsync(errand, recogniser, cancel),
            ErrandKinds.Copies => await CopyErrand.DoAsync(errand, progress, cancel),
            ErrandKinds.Sound => await SoundErrand.DoAsync(errand, cancel),
            ErrandKinds.Faces => await FacesErrand.DoAsync(errand, progress, cancel),
            _ => throw new ErrandElsewhereException($"This worker does not know work of the kind “{errand.Kind}”."),
        };

    /// <summary>
    /// Looks at what another machine answered, with the file that it made: throws <see cref="FormatException"/> where it can not be the
    /// answer.
    /// </summary>
    public static Task CheckAsync(Errand errand, string answer, CancellationToken cancel)
    {
        switch (errand.Kind)
        {
            case ErrandKinds.Speech:
                SpeechErrand.Read(errand, answer);
                return Task.CompletedTask;
            case ErrandKinds.Copies:
                return CopyErrand.CheckAsync(errand, cancel);
            case ErrandKinds.Sound:
                SoundErrand.Check(errand);
                return Task.CompletedTask;
            case ErrandKinds.Faces:
                FacesErrand.Read(errand, answer);
                return Task.CompletedTask;
            default:
                throw new ArgumentException(errand.Kind, nameof(errand));
        }
    }
}

/// <summary>This machine can not do an errand, another one may: the message says why.</summary>
public sealed class ErrandElsewhereException(string message) : Exception(message);
