namespace EmberLane.Application.Work;

/// <summary>A stage of a transcription: its name for a person, and which part of the whole work it is taken to be.</summary>
internal sealed record Stage(string Name, PerMille From, PerMille To)
{
    public static readonly Stage Reading = new("reading the sound", PerMille.None, new(80)),
        NearMics = new("laying each voice out from its own mic", new(80), new(120)),
        Words = new("recognising words", new(120), new(980)),
        Voices = new("finding who speaks", new(980), PerMille.All);

    /// <summary>Reports how far it got, with a further word on how it goes.</summary>
    public void Tell(Progress progress, MediaTime at, MediaTime whole, string how = "") =>
        progress(
            new PerMille(From.Value + ((To.Value - From.Value) * Speed.Done(at, whole).Value / PerMille.All.Value)),
            how.Length == 0 ? Name : $"{Name}: {how}"
        );
}
