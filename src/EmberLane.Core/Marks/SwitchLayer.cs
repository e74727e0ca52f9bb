using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Marks;

/// <summary>
/// Switches a layer of what is set aside off, so that all that it holds is in use, or on again. Its marks stay. One that is held stays on.
/// </summary>
public sealed record SwitchLayer(string Layer, bool Off) : TranscriptEdit
{
    internal override IEnumerable<string> Touched() => ["layer " + Layer];

    /// <inheritdoc/>
    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        if (MarkLayer.Find(Layer) is not { } layer)
        {
            throw new EditRefusedException("There is no such layer.");
        }
        if (Off && layer.IsHeld)
        {
            throw new EditRefusedException("What is off the record stays out until somebody releases it by name, under Off the record.");
        }
        var off = transcript.Layers.Off;
        return (transcript.Layers with { Off = Off ? off.Add(Layer) : off.Remove(Layer) }, new SwitchLayer(Layer, off.Contains(Layer)));
    }
}
