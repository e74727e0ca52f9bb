using System.Text.Json.Nodes;
using EmberLane.Core.Cameras;
using EmberLane.Core.Captions;

namespace EmberLane.Store.Exports;

/// <summary>
/// A table of which rows belong to a production: which ones, the space of its own ids (null where its key is made of others'), and which of
/// its columns name what.
/// </summary>
internal sealed record ExportTable(string Name, string Of, IdSpace? Own, params IReadOnlyList<(string Column, IdSpace Space)> Refers)
{
    /// <summary>What else of a row names things, in JSON or in text: changes the row in place.</summary>
    public Action<ExportRow, IdMap>? Further { get; init; }
}

/// <summary>A row in hand: its values by the names of their columns.</summary>
internal sealed class ExportRow(IReadOnlyList<string> columns, object?[] values)
{
    public object?[] Values => values;

    public object? this[string column]
    {
        get => values[IndexOf(column)];
        set => values[IndexOf(column)] = value;
    }

    /// <summary>The text of a column; null for none.</summary>
    public string? Text(string column) => this[column] as string;

    private int IndexOf(string column)
    {
        for (var i = 0; i < columns.Count; i++)
        {
            if (columns[i] == column)
            {
                return i;
            }
        }
        throw new KeyNotFoundException(column);
    }
}

/// <summary>
/// All that a production is: the tables that people's work and what was measured for them lie in. What is made of those again (readings,
/// what is found) and what belongs to a place (accounts, links, work in hand, copies) is left out. A test holds that each table of the
/// schema is either here or left out by name.
/// </summary>
internal static class ExportTables
{
    private const string InProduction = "production_id = $p",
        InSitting = "sitting_id IN (SELECT id FROM sitting WHERE production_id = $p)",
        InSource = "source_id IN (SELECT id FROM source WHERE production_id = $p)",
        InText = "transcript_id IN (SELECT t.id FROM transcript t JOIN sitting s ON s.id = t.sitting_id WHERE s.production_id = $p)",
        InBite = "bite_id IN (SELECT b.id FROM bite b JOIN sitting s ON s.id = b.sitting_id WHERE s.production_id = $p)",
        InStory = "story_id IN (SELECT id FROM story WHERE production_id = $p)";

    /// <summary>Properties of JSON that list numbers in text, with blanks between them.</summary>
    public static readonly IReadOnlySet<string> Lists = new HashSet<string> { "OtherTakes", "Takes" };

    /// <summary>Which properties name what: in pieces of stories and their edits.</summary>
    public static readonly IReadOnlyDictionary<string, IdSpace> InStories = new Dictionary<string, IdSpace>
    {
        ["BiteId"] = IdSpace.Mark,
        ["Bite"] = IdSpace.Mark,
        ["OtherTakes"] = IdSpace.Mark,
        ["Takes"] = IdSpace.Mark,
        ["SittingId"] = IdSpace.Sitting,
        ["Sitting"] = IdSpace.Sitting,
        ["SourceId"] = IdSpace.Source,
        ["Angle"] = IdSpace.Source,
    };

    /// <summary>In edits of texts.</summary>
    public static readonly IReadOnlyDictionary<string, IdSpace> InTexts = new Dictionary<string, IdSpace> { ["Id"] = IdSpace.Mark };

    /// <summary>In edits of bites.</summary>
    public static readonly IReadOnlyDictionary<string, IdSpace> InBites = new Dictionary<string, IdSpace>
    {
        ["Id"] = IdSpace.Mark,
        ["Text"] = IdSpace.Transcript,
    };

    /// <summary>In changes of Gather.</summary>
    public static readonly IReadOnlyDictionary<string, IdSpace> InGather = new Dictionary<string, IdSpace>
    {
        ["Id"] = IdSpace.Sitting,
        ["Sitting"] = IdSpace.Sitting,
        ["Source"] = IdSpace.Source,
        ["Sound"] = IdSpace.Source,
    };

    /// <summary>In placements.</summary>
    public static readonly IReadOnlyDictionary<string, IdSpace> InPlaces = new Dictionary<string, IdSpace> { ["Source"] = IdSpace.Source };

    /// <summary>In choices of texts.</summary>
    public static readonly IReadOnlyDictionary<string, IdSpace> InChoices = new Dictionary<string, IdSpace>
    {
        ["Text"] = IdSpace.Transcript,
    };

    private static readonly (string, IdSpace) Text = ("transcript_id", IdSpace.Transcript),
        Sitting = ("sitting_id", IdSpace.Sitting),
        Source = ("source_id", IdSpace.Source),
        Story = ("story_id", IdSpace.Story),
        Production = ("production_id", IdSpace.Production);

    /// <summary>They, each behind those that it refers to as far as that goes.</summary>
    public static readonly IReadOnlyList<ExportTable> All =
    [
        new("production", "id = $p", IdSpace.Production),
        new("production_setting", InProduction, null, Production) { Further = Setting },
        new(
            "sitting",
            InProduction,
            IdSpace.Sitting,
            Production,
            ("sound_source_id", IdSpace.Source),
            ("transcript_id", IdSpace.Transcript)
        ),
        new("source", InProduction, IdSpace.Source, Production, Sitting),
        new("transcript", InSitting, IdSpace.Transcript, Sitting),
        new("word", InText, null, Text),
        new("retyped", InText, null, Text),
        new("voice_name", InText, null, Text),
        new("given", InText, null, Text),
        new("hidden", InText, null, Text),
        new("joined", InText, null, Text),
        new("added", InText, null, Text),
        new("layer_off", InText, null, Text),
        new("voice_print", InText, null, Text),
        new("voice_mic", InText, null, Text, Source),
        new("voice_doubt", InText, null, Text),
        new("voice_said", InText, null, Text),
        new("mark", InText, IdSpace.Mark, Text),
        new("bite", InSitting, null, ("id", IdSpace.Mark), Sitting),
        new("bite_theme", InBite, null, ("bite_id", IdSpace.Mark)),
        new("channel_sound", InSource, null, Source),
        new("mic", InSource, null, Source),
        new("alike", "one IN (SELECT id FROM source WHERE production_id = $p)", null, ("one", IdSpace.Source), ("other", IdSpace.Source)),
        new("compared", InSource, null, Source),
        new("picture_measure", InSource, null, Source),
        new("shot", InSource, null, Source),
        new("seen_person", InSource, null, Source),
        new("script", InProduction, IdSpace.Script, Production)
        {
            Further = (row, map) => Change(row, "sittings", t => map.JsonList(t, IdSpace.Sitting)),
        },
        new("script_take", InProduction, null, Production, Text),
        new("set_flag", InProduction, null, Production),
        new("read_time", InSitting, null, Sitting),
        new("camera_choice", InSitting, null, Sitting) { Further = Camera },
        new("saved_search", InProduction, IdSpace.SavedSearch, Production) { Further = (row, _) => row["seen"] = Array.Empty<byte>() },
        new("story", InProduction, IdSpace.Story, Production),
        new("story_piece", InStory, null, Story) { Further = (row, map) => Change(row, "body", t => map.Json(t, InStories)) },
        new("card", InStory, null, Story, ("bite_id", IdSpace.Mark), Sitting, ("angle", IdSpace.Source), ("over_source", IdSpace.Source))
        {
            Further = (row, map) => Change(row, "other_takes", t => map.Listed(IdSpace.Mark, t)),
        },
        new("story_step", InStory, null, Story)
        {
            Further = (row, map) =>
            {
                Change(row, "edit", t => map.Json(t, InStories));
                Change(row, "inverse", t => map.Json(t, InStories));
            },
        },
        new("story_version", InStory, IdSpace.StoryVersion, Story),
        new("caption_choice", InStory, null, Story)
        {
            Further = (row, map) => row["value"] = CaptionSetup.Renumbered(row.Text("name")!, row.Text("value"), Sittings(map)),
        },
        new("change", InProduction, IdSpace.Change, Production, ("takes_back", IdSpace.Change)) { Further = Logged },
        new(
            "comment",
            InProduction,
            IdSpace.Comment,
            Production,
            ("answers", IdSpace.Comment),
            Sitting,
            Text,
            ("bite_id", IdSpace.Mark),
            Story
        ),
        new("comment_mention", "comment_id IN (SELECT id FROM comment WHERE production_id = $p)", null, ("comment_id", IdSpace.Comment)),
    ];

    /// <summary>Tables that are not of a production, or are made again of those that are.</summary>
    public static readonly IReadOnlySet<string> LeftOut = new HashSet<string>
    {
        // Of a place: who comes in there, what it works on, what it was told.
        "account",
        "admission",
        "copy",
        "door_event",
        "job",
        "job_piece",
        "left_out",
        "member",
        "passkey",
        "seen_until",
        "setting",
        // Made of the others.
        "aside_stretch",
        "bite_piece",
        "bite_reading",
        "bite_voice",
        "card_reading",
        "card_voice",
        "find_entry",
        "find_mark",
        "find_state",
        "find_term",
        "find_text",
        "reading_state",
    };

    private static void Change(ExportRow row, string column, Func<string, string> change)
    {
        if (row.Text(column) is { } text)
        {
            row[column] = change(text);
        }
    }

    private static Func<long, long> Sources(IdMap map) => id => map.Of(IdSpace.Source, id);

    private static Func<long, long> Sittings(IdMap map) => id => map.Of(IdSpace.Sitting, id);

    private static void Camera(ExportRow row, IdMap map) =>
        (row["name"], row["value"]) = CameraSetup.Renumbered(row.Text("name")!, row.Text("value"), Sources(map));

    private static void Setting(ExportRow row, IdMap map)
    {
        if (row.Text("name") == Stories.InHandSetting)
        {
            row["value"] = map.Listed(IdSpace.Story, row.Text("value")!);
        }
    }

    // A change of the log is of something that its aggregate says, and names others as its edits do.
    private static void Logged(ExportRow row, IdMap map)
    {
        var (of, rewrite) = row.Text("aggregate") switch
        {
            About.TextWords => (IdSpace.Transcript, Named(InTexts)),
            About.StoryCards or About.StoryShelf => (IdSpace.Story, Named(InStories)),
            About.KeptBites => (IdSpace.Production, Named(InBites)),
            About.Gathered => (IdSpace.Production, Named(InGather)),
            About.Places => (IdSpace.Sitting, Named(InPlaces)),
            About.Choice => (IdSpace.Sitting, Named(InChoices)),
            About.Cameras => (IdSpace.Sitting, Chosen((name, value) => CameraSetup.Renumbered(name, value, Sources(map)))),
            About.Captions => (IdSpace.Story, Chosen((name, value) => (name, CaptionSetup.Renumbered(name, value, Sittings(map))))),
            About.Settings => (IdSpace.Production, (Func<string, string>)(json => json)),
            _ => throw new FormatException($"It holds changes of “{row.Text("aggregate")}”, which this Ember Lane does not know."),
        };
        row["aggregate_id"] = map.Of(of, (long)row["aggregate_id"]!);
        Change(row, "body", rewrite);
        Change(row, "inverse", rewrite);

        Func<string, string> Named(IReadOnlyDictionary<string, IdSpace> named) => json => map.Json(json, named);
    }

    private static Func<string, string> Chosen(Func<string, string?, (string, string?)> change) =>
        json =>
        {
            var edit = JsonNode.Parse(json)!.AsObject();
            if (edit["Choices"] is JsonObject choices)
            {
                var changed = new JsonObject();
                foreach (var (name, value) in choices)
                {
                    var (now, text) = change(name, value?.GetValue<string>());
                    changed[now] = text;
                }
                edit["Choices"] = changed;
            }
            return edit.ToJsonString();
        };
}
