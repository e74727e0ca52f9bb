namespace EmberLane.Core;

/// <summary>A change that does not fit what it would change. The message is written for the person who asked for it.</summary>
public sealed class EditRefusedException(string message) : Exception(message);
