namespace Walkdown.Core.Recording;

/// <summary>A channel of a recorder as a person wrote it down: exported there as a list, or typed off its page. What is not said is empty.</summary>
/// <param name="Channel">From 1.</param>
/// <param name="Name">Of the channel.</param>
/// <param name="Address">That it asks for the stream at, as it is written.</param>
/// <param name="Serial">Of what is registered there.</param>
/// <param name="HardwareAddress">Likewise.</param>
public sealed record WrittenChannel(int Channel, string Name = "", string Address = "", string Serial = "", string HardwareAddress = "");
