namespace EmberLane.Web.Rooms.Drawn;

/// <summary>
/// The drawings that pages were given lately, each by a name that its page sends along: an answer to it need hold only what is not so any
/// more. One that is not known any more costs no more than a whole answer.
/// </summary>
public sealed class KeptDrawings
{
    /// <summary>So many are kept; they share the lines that are equal.</summary>
    private const int Most = 100;

    private readonly Lock gate = new();
    private readonly Dictionary<string, DrawnStory> known = [];
    private readonly Queue<string> order = new();

    /// <summary>Keeps a drawing. Returns its name.</summary>
    public string Keep(DrawnStory drawing)
    {
        var name = Guid.NewGuid().ToString("N");
        lock (gate)
        {
            known[name] = order.Reverse().Select(n => known[n]).FirstOrDefault(d => d.Story == drawing.Story) is { } last
                ? drawing.Sharing(last)
                : drawing;
            order.Enqueue(name);
            if (order.Count > Most)
            {
                known.Remove(order.Dequeue());
            }
        }
        return name;
    }

    /// <summary>The drawing of this name; null when it is not kept.</summary>
    public DrawnStory? Find(string? name)
    {
        lock (gate)
        {
            return name is null ? null : known.GetValueOrDefault(name);
        }
    }
}
