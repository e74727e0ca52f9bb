using System.Text.Json;

namespace EmberLane.Web.Rooms;

/// <summary>Something that a person can do in a place by a key or a button. Buttons carry its name in <c>data-action</c>.</summary>
/// <param name="Place">Where it acts: one of <see cref="CommandPlaces"/>.</param>
/// <param name="Keys">
/// The keys that do it, as the browser names them, capital letters for letters, <c>Shift+</c> before; <c>1–9</c> stands for all of them.
/// </param>
/// <param name="Group">The heading that it is listed under.</param>
/// <param name="Says">What it does, for the list of keys. Commands that say the same are listed in one line.</param>
public sealed record RoomCommand(string Place, string Name, IReadOnlyList<string> Keys, string Group, string Says);

/// <summary>Where commands act.</summary>
public static class CommandPlaces
{
    /// <summary>On every page.</summary>
    public const string Everywhere = "everywhere";

    /// <summary>In the rooms, and on their pages that have commands of their own.</summary>
    public const string Gather = "gather",
        Files = "files",
        Watch = "watch",
        Cameras = "cameras",
        Read = "read",
        Tidy = "tidy",
        LogSheet = "log-sheet",
        Find = "find",
        Bites = "bites",
        Cutaways = "cutaways",
        Story = "story";
}

/// <summary>The one table from which keys, the hints on buttons and the list of keys are made.</summary>
public static class CommandTable
{
    private const string Going = "Going about",
        Listening = "Listening",
        Marking = "Marking",
        Mending = "Mending",
        Ordering = "Ordering",
        Always = "Everywhere";

    private const string WordStep = "a word back or on; with Shift select",
        TurnStep = "a turn up or down; with Shift select",
        Pace = "slower, faster; the pitch stays",
        SecondStep = "a second back or on; with Shift a frame",
        Ends = "to the beginning, to the end",
        LargeAngle = "make an angle large",
        BorderStep = "the part begins a sentence earlier or later",
        Grades = "how good it is: spare, good, must have; again takes it away",
        StopStep = "a bite ends a word earlier or later; on the board it goes to the theme beside",
        FoundStop = "a kept bite ends a word earlier or later",
        BeginStep = "a bite begins a word earlier or later",
        ShotStep = "a shot back or on",
        FrameStep = "a frame back or on",
        CardStep = "move the card up or down, or the section with its cards",
        StoryStep = "a word back or on, with Shift select; at a seam the end, with Shift the begin, earlier or later",
        StoryStop = "the card ends a word earlier or later; at a seam both ends",
        StoryBegin = "the card, or the one behind the seam, begins earlier or later",
        Back = "take the last change back, bring it again; so do Ctrl Z and Ctrl Y";

    /// <summary>All commands, in the order in which they are listed.</summary>
    public static IReadOnlyList<RoomCommand> All { get; } =
    [
        Of(CommandPlaces.Read, "word-back", Going, WordStep, "ArrowLeft", "Shift+ArrowLeft"),
        Of(CommandPlaces.Read, "word-on", Going, WordStep, "ArrowRight", "Shift+ArrowRight"),
        Of(CommandPlaces.Read, "turn-up", Going, TurnStep, "ArrowUp", "Shift+ArrowUp"),
        Of(CommandPlaces.Read, "turn-down", Going, TurnStep, "ArrowDown", "Shift+ArrowDown"),
        Of(CommandPlaces.Read, "find", Going, "find on the page; Enter goes to the next place", "/"),
        Of(CommandPlaces.Read, "tidy", Going, "tidy the sitting: pauses, hesitations, retakes, cues", "D"),
        Of(CommandPlaces.Read, "log-sheet", Going, "the log sheet: parts, key words, pulls of a length", "K"),
        Of(CommandPlaces.Read, "beside", Going, "the story in a window beside this one; the two follow each other", "S"),
        Of(CommandPlaces.Read, "angle", Going, LargeAngle, "1–9"),
        Of(CommandPlaces.Read, "let-go", Going, "close, or let go of the selection", "Escape"),
        Of(CommandPlaces.Read, "play", Listening, "play or stop", "Space"),
        Of(CommandPlaces.Read, "play-selection", Listening, "play the selection, or the turn", "Enter"),
        Of(CommandPlaces.Read, "loop", Listening, "play the selection, or the turn, again and again", "L"),
        Of(CommandPlaces.Read, "slower", Listening, Pace, "-"),
        Of(CommandPlaces.Read, "faster", Listening, Pace, "+", "="),
        Of(CommandPlaces.Read, "keep", Marking, "keep the selection as a bite", "B"),
        Of(CommandPlaces.Read, "theme", Marking, "theme and note of the bite at the cursor", "T"),
        Of(CommandPlaces.Read, "flag", Marking, "flag before the word", "F"),
        Of(CommandPlaces.Read, "next-flag", Marking, "to the next flag", "Shift+F"),
        Of(CommandPlaces.Read, "aside", Marking, "set the selected words aside, or bring them back", "X"),
        Of(CommandPlaces.Read, "off-record", Marking, "set the selected words aside as off the record", "Shift+X"),
        Of(CommandPlaces.Read, "part", Marking, "make the selected words a part of the sitting", "P"),
        Of(CommandPlaces.Read, "copy-now", Marking, "copy the selected words, or the whole text", "C"),
        Of(CommandPlaces.Read, "next-doubtful", Mending, "next doubtful word", "N"),
        Of(CommandPlaces.Read, "next-unsure", Mending, "next turn whose voice is unsure", "W"),
        Of(CommandPlaces.Read, "settle", Mending, "the doubtful word, or the unsure voice, is right; on to the next", "Y"),
        Of(CommandPlaces.Read, "correct", Mending, "correct the word, or the selected ones", "E"),
        Of(CommandPlaces.Read, "insert", Mending, "add a word that was missed behind this one", "I"),
        Of(CommandPlaces.Read, "voice", Mending, "name the voice; with words selected, say whose they are", "V"),
        Of(CommandPlaces.Read, "join", Mending, "make the selected words one word, or two again", "J"),
        Of(CommandPlaces.Read, "case", Mending, "first letters capital, all capital, small", "A"),
        Of(CommandPlaces.Read, "mark", Mending, "stop, comma, question mark or nothing behind the word", "."),
        Of(CommandPlaces.Read, "hide", Mending, "take the selected words out of the text, or bring them back; their sound stays", "O"),
        Of(CommandPlaces.Tidy, "up", Going, "a finding up or down", "ArrowUp"),
        Of(CommandPlaces.Tidy, "down", Going, "a finding up or down", "ArrowDown"),
        Of(CommandPlaces.Tidy, "hear", Listening, "hear it as it would be, or stop", "Enter", "Space"),
        Of(CommandPlaces.Tidy, "hear-all", Listening, "hear it as it is", "Shift+Enter", "Shift+Space"),
        Of(CommandPlaces.Tidy, "attempt", Listening, "hear an attempt of the retake", "1–9"),
        Of(CommandPlaces.Tidy, "stop", Listening, "stop", "Escape"),
        Of(CommandPlaces.Tidy, "aside", Marking, "set it aside, or take the proposed attempt", "X"),
        Of(CommandPlaces.Tidy, "stays", Marking, "it stays: do not propose it again", "K"),
        Of(CommandPlaces.LogSheet, "up", Going, "a part or a pull up or down", "ArrowUp"),
        Of(CommandPlaces.LogSheet, "down", Going, "a part or a pull up or down", "ArrowDown"),
        Of(CommandPlaces.LogSheet, "hear", Listening, "hear the pull, or stop", "Enter", "Space"),
        Of(CommandPlaces.LogSheet, "stop", Listening, "stop", "Escape"),
        Of(CommandPlaces.LogSheet, "keep", Marking, "keep the pull as a bite", "B"),
        Of(CommandPlaces.LogSheet, "accept", Marking, "the proposed part is one", "Y"),
        Of(CommandPlaces.LogSheet, "name", Marking, "give the part another name", "E"),
        Of(CommandPlaces.LogSheet, "earlier", Marking, BorderStep, "["),
        Of(CommandPlaces.LogSheet, "later", Marking, BorderStep, "]"),
        Of(CommandPlaces.LogSheet, "aside", Marking, "set all of the part aside, or bring it back", "X"),
        Of(CommandPlaces.LogSheet, "copy", Marking, "copy the sheet as text with times", "C"),
        Of(CommandPlaces.Find, "up", Going, "a hit up or down", "ArrowUp"),
        Of(CommandPlaces.Find, "down", Going, "a hit up or down", "ArrowDown"),
        Of(CommandPlaces.Find, "go", Going, "go to its place; the browser's key goes back", "Shift+Enter"),
        Of(CommandPlaces.Find, "ask", Going, "change the question", "/"),
        Of(CommandPlaces.Find, "hear", Listening, "hear the hit, or stop", "Enter", "Space"),
        Of(CommandPlaces.Find, "stop", Listening, "stop", "Escape"),
        Of(CommandPlaces.Find, "keep", Marking, "keep its sentence as a bite", "B"),
        Of(CommandPlaces.Find, "lay", Marking, "keep its sentence and put it at the story's end", "S"),
        Of(CommandPlaces.Find, "copy", Marking, "copy its sentence, to put it into any story", "C"),
        Of(CommandPlaces.Find, "stop-earlier", Marking, FoundStop, "ArrowLeft"),
        Of(CommandPlaces.Find, "stop-later", Marking, FoundStop, "ArrowRight"),
        Of(CommandPlaces.Find, "begin-earlier", Marking, BeginStep, "Shift+ArrowLeft"),
        Of(CommandPlaces.Find, "begin-later", Marking, BeginStep, "Shift+ArrowRight"),
        Of(CommandPlaces.Watch, "play", Listening, "play or stop", "Space"),
        Of(CommandPlaces.Watch, "back", Listening, SecondStep, "ArrowLeft", "Shift+ArrowLeft"),
        Of(CommandPlaces.Watch, "on", Listening, SecondStep, "ArrowRight", "Shift+ArrowRight"),
        Of(CommandPlaces.Watch, "first", Listening, Ends, "Home"),
        Of(CommandPlaces.Watch, "last", Listening, Ends, "End"),
        Of(CommandPlaces.Watch, "angle", Listening, LargeAngle, "1–9"),
        Of(CommandPlaces.Cameras, "play", Listening, "play the cut or stop", "Space"),
        Of(CommandPlaces.Cameras, "back", Listening, SecondStep, "ArrowLeft", "Shift+ArrowLeft"),
        Of(CommandPlaces.Cameras, "on", Listening, SecondStep, "ArrowRight", "Shift+ArrowRight"),
        Of(CommandPlaces.Cameras, "cut-back", Going, "to the cut before, to the next one", "["),
        Of(CommandPlaces.Cameras, "cut-on", Going, "to the cut before, to the next one", "]"),
        Of(CommandPlaces.Cameras, "show", Marking, "show that angle in this shot; with “from here on”, from here to its end", "1–9"),
        Of(CommandPlaces.Cameras, "from-here", Marking, "let an angle's number act from here on, or for the whole shot", "O"),
        Of(CommandPlaces.Cameras, "turn", Marking, "the angle shown here goes to others from here on: say to whom in the chart", "T"),
        Of(CommandPlaces.Cameras, "lock", Marking, "keep this shot as it is, whatever is planned around it", "L"),
        Of(CommandPlaces.Cameras, "release", Marking, "let the plan choose here again", "X"),
        Of(CommandPlaces.Cameras, "cut-earlier", Marking, "the nearest cut a frame earlier or later", ","),
        Of(CommandPlaces.Cameras, "cut-later", Marking, "the nearest cut a frame earlier or later", "."),
        Of(CommandPlaces.Cameras, "crowd", Marking, "laughter or applause begins here, then ends here; within it, there is none", "A"),
        Of(CommandPlaces.Gather, "up", Going, "a source up or down", "ArrowUp"),
        Of(CommandPlaces.Gather, "down", Going, "a source up or down", "ArrowDown"),
        Of(CommandPlaces.Gather, "check", Going, "check where the source lies", "Enter"),
        Of(CommandPlaces.Files, "up", Going, "a file up or down", "ArrowUp"),
        Of(CommandPlaces.Files, "down", Going, "a file up or down", "ArrowDown"),
        Of(CommandPlaces.Files, "find", Going, "find a file", "/"),
        Of(CommandPlaces.Files, "labels", Marking, "write on the ticked files", "E"),
        Of(CommandPlaces.Bites, "up", Going, "a bite up or down", "ArrowUp"),
        Of(CommandPlaces.Bites, "down", Going, "a bite up or down", "ArrowDown"),
        Of(CommandPlaces.Bites, "hear", Listening, "hear the bite, or stop", "Enter", "Space"),
        Of(CommandPlaces.Bites, "stop", Listening, "stop", "Escape"),
        Of(CommandPlaces.Bites, "describe", Marking, "themes, note and kind of the bite", "T"),
        Of(CommandPlaces.Bites, "grade-1", Marking, Grades, "1"),
        Of(CommandPlaces.Bites, "grade-2", Marking, Grades, "2"),
        Of(CommandPlaces.Bites, "grade-3", Marking, Grades, "3"),
        Of(CommandPlaces.Bites, "stop-earlier", Mending, StopStep, "ArrowLeft"),
        Of(CommandPlaces.Bites, "stop-later", Mending, StopStep, "ArrowRight"),
        Of(CommandPlaces.Bites, "begin-earlier", Mending, BeginStep, "Shift+ArrowLeft"),
        Of(CommandPlaces.Bites, "begin-later", Mending, BeginStep, "Shift+ArrowRight"),
        Of(CommandPlaces.Bites, "ends", Mending, "ends by ear, two bites of one, other tries at it", "E"),
        Of(CommandPlaces.Bites, "tick", Marking, "tick the bite, to change several at once", "M"),
        Of(CommandPlaces.Bites, "aside", Marking, "set the bite aside, or bring it back", "X"),
        Of(CommandPlaces.Bites, "copy", Marking, "copy the ticked bites, or the bite, to put them into any story", "C"),
        Of(CommandPlaces.Bites, "lay", Marking, "put the bite at the story's end", "S"),
        Of(CommandPlaces.Bites, "lay-again", Marking, "put it there once more", "Shift+S"),
        Of(CommandPlaces.Cutaways, "back", Going, ShotStep, "ArrowLeft"),
        Of(CommandPlaces.Cutaways, "on", Going, ShotStep, "ArrowRight"),
        Of(CommandPlaces.Cutaways, "up", Going, "a row of shots up or down", "ArrowUp"),
        Of(CommandPlaces.Cutaways, "down", Going, "a row of shots up or down", "ArrowDown"),
        Of(CommandPlaces.Cutaways, "open", Going, "lay the shot open", "Enter"),
        Of(CommandPlaces.Cutaways, "ask", Going, "change the question", "/"),
        Of(CommandPlaces.Cutaways, "like", Going, "shots that look like the open one", "L"),
        Of(CommandPlaces.Cutaways, "play", Listening, "play the open shot, or stop", "Space"),
        Of(CommandPlaces.Cutaways, "frame-back", Listening, FrameStep, "Shift+ArrowLeft"),
        Of(CommandPlaces.Cutaways, "frame-on", Listening, FrameStep, "Shift+ArrowRight"),
        Of(CommandPlaces.Cutaways, "best-from", Marking, "the best seconds begin here", "B"),
        Of(CommandPlaces.Cutaways, "best-to", Marking, "the best seconds end here", "N"),
        Of(CommandPlaces.Cutaways, "describe", Marking, "write what it shows", "E"),
        Of(CommandPlaces.Story, "up", Going, "a card or a bite up or down; from a seam to the next", "ArrowUp"),
        Of(CommandPlaces.Story, "down", Going, "a card or a bite up or down; from a seam to the next", "ArrowDown"),
        Of(CommandPlaces.Story, "word-back", Going, StoryStep, "ArrowLeft", "Shift+ArrowLeft"),
        Of(CommandPlaces.Story, "word-on", Going, StoryStep, "ArrowRight", "Shift+ArrowRight"),
        Of(CommandPlaces.Story, "source", Going, "what the card is taken from, in a window beside; the two follow each other", "S"),
        Of(CommandPlaces.Story, "worst", Going, "to the worst seam", "W"),
        Of(CommandPlaces.Story, "next-seam", Going, "to the next worse seam", "N"),
        Of(CommandPlaces.Story, "open-seam", Going, "look closer at the seam, or close it", "E"),
        Of(CommandPlaces.Story, "play-story", Listening, "play the story from the card on, or stop", "Space"),
        Of(CommandPlaces.Story, "use", Listening, "play from the card on; hear the seam; put the bite at the story's end", "Enter"),
        Of(CommandPlaces.Story, "loop", Listening, "the section, or the open seam, again and again", "L"),
        Of(CommandPlaces.Story, "faster", Listening, "play faster, or as it is again", "+", "="),
        Of(CommandPlaces.Story, "earlier", Ordering, CardStep, "["),
        Of(CommandPlaces.Story, "later", Ordering, CardStep, "]"),
        Of(CommandPlaces.Story, "take-out", Ordering, "take the selected words, the ticked cards or the card out", "X"),
        Of(CommandPlaces.Story, "leave-space", Ordering, "the same, and leave a space of that length", "Shift+X"),
        Of(CommandPlaces.Story, "copy", Ordering, "copy the selected words, the ticked cards or the card; so does Ctrl C", "C"),
        Of(
            CommandPlaces.Story,
            "paste",
            Ordering,
            "put in what was cut or copied, before the word or behind the card; so does Ctrl V",
            "V"
        ),
        Of(CommandPlaces.Story, "tick", Ordering, "tick the card, for what is done to several", "M"),
        Of(CommandPlaces.Story, "part", Ordering, "make two cards of it, before the selected word", "T"),
        Of(CommandPlaces.Story, "join", Ordering, "make one card of it and the next, which continues it", "J"),
        Of(CommandPlaces.Story, "stop-earlier", Ordering, StoryStop, ","),
        Of(CommandPlaces.Story, "stop-later", Ordering, StoryStop, "."),
        Of(CommandPlaces.Story, "begin-earlier", Ordering, StoryBegin, "<", ";"),
        Of(CommandPlaces.Story, "begin-later", Ordering, StoryBegin, ">", ":"),
        Of(CommandPlaces.Story, "mend", Mending, "move the ends at the open seam to where they are cut best", "Z"),
        Of(CommandPlaces.Story, "unit", Mending, "ends at the open seam move by word, frame, millisecond, sample", "1–9"),
        Of(CommandPlaces.Story, "fold", Ordering, "fold the section, or open it", "F"),
        Of(CommandPlaces.Story, "describe", Ordering, "change the section, the space, the title or the narration", "D"),
        Of(CommandPlaces.Story, "add", Ordering, "lay a section, a space, a title, narration or a file", "A"),
        Of(CommandPlaces.Story, "behind", Ordering, "put the bite behind the card that you were at", "B"),
        Of(CommandPlaces.Story, "instead", Ordering, "put the bite in that card's place, which stays as another take", "I"),
        Of(CommandPlaces.Story, "beside", Ordering, "put the bite beside that card, as another take", "K"),
        Of(CommandPlaces.Story, "over", Ordering, "lay the bite's picture over that card", "O"),
        Of(CommandPlaces.Everywhere, "undo", Always, Back, "U"),
        Of(CommandPlaces.Everywhere, "redo", Always, Back, "Shift+U"),
        Of(CommandPlaces.Everywhere, "find-all", Always, "find in everything", "Q"),
        Of(CommandPlaces.Everywhere, "comment", Always, "say something of the words, the bite or the card", "Shift+C"),
        Of(CommandPlaces.Everywhere, "room", Always, "then G, R, B, S or H: go to Gather, Read, Bites, Story, Hand-off", "G"),
        Of(CommandPlaces.Everywhere, "keys", Always, "this list", "?"),
    ];

    /// <summary>What can be done in a place, what goes everywhere last.</summary>
    public static IEnumerable<RoomCommand> In(string place) => All.Where(c => c.Place == place || c.Place == CommandPlaces.Everywhere);

    /// <summary>They by groups, and in each by what they do: several keys may stand at one line.</summary>
    public static IEnumerable<(string Group, IEnumerable<IGrouping<string, RoomCommand>> Lines)> Listed(string place) =>
        In(place).GroupBy(c => c.Group).Select(g => (g.Key, g.GroupBy(c => c.Says)));

    /// <summary>The command of this name in a place, or everywhere. Throws when there is none: a hint would be wrong.</summary>
    public static RoomCommand Find(string place, string name) =>
        In(place).FirstOrDefault(c => c.Name == name) ?? throw new ArgumentException($"There is no command “{name}” in {place}.");

    /// <summary>The commands of a place for the page's scripts.</summary>
    public static string Json(string place) => JsonSerializer.Serialize(In(place).Select(c => new { name = c.Name, keys = c.Keys }));

    /// <summary>A key as it is shown, each part by itself: “Shift”, “F”.</summary>
    public static IEnumerable<string> Shown(string key) =>
        key.Split('+', StringSplitOptions.RemoveEmptyEntries) is { Length: > 0 } parts
            ? parts.Select(p => Glyphs.GetValueOrDefault(p, p))
            : [key];

    private static readonly Dictionary<string, string> Glyphs = new()
    {
        ["ArrowLeft"] = "←",
        ["ArrowRight"] = "→",
        ["ArrowUp"] = "↑",
        ["ArrowDown"] = "↓",
        ["Escape"] = "Esc",
        ["-"] = "−",
    };

    private static RoomCommand Of(string place, string name, string group, string says, params string[] keys) =>
        new(place, name, keys, group, says);
}
