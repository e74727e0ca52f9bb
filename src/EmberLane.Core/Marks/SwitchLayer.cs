using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Marks;

/// <summary>Switches a layer of what is set aside off, so that all that it holds is in use, or on again. Its marks stay.</summary>
public sealed record SwitchLayer(string Layer, bool Off) : TranscriptEdit
{
    internal override IEnumerable<string> Touched() => ["layer " + Layer];

    /// <inheritdoc/>
    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        if (MarkLayer.Find(Layer) is null)
        {
            throw new EditRefusedException("There is no such layer.");
        }
        var off = transcript.Layers.Off;
        return (transcript.Layers with { Off = Off ? off.Add(Layer) : off.Remove(Layer) }, new SwitchLayer(Layer, off.Contains(Layer)));
    }
}
